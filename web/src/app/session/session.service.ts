import { inject, Injectable } from '@angular/core';
import type { Door, Person, Role } from '@plain-relief/api';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api } from '../platform/api';

/** What each may do, for those who choose one. */
export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  maker: 'sees everything, makes files of what was approved, moves jobs through the shop',
  designer: 'makes jobs, signs and proofs as well',
  owner: 'names the people of the shop as well',
};

/** Who is signed in with this browser. */
@Injectable({ providedIn: 'root' })
export class SessionService {
  private readonly api = inject(Api);
  private readonly people = new BehaviorSubject<Person | undefined>(undefined);
  readonly person$: Observable<Person | undefined> = this.people;

  get person(): Person | undefined {
    return this.people.value;
  }

  /** Asks the server who is signed in; gives what the door says where nobody is. @throws ApiError */
  async look(): Promise<Door | undefined> {
    const answer = await this.api.ask('GET /session');
    const isSignedIn = 'person' in answer;
    this.people.next(isSignedIn ? answer.person : undefined);
    return isSignedIn ? undefined : answer;
  }

  /** @throws ApiError */
  async signIn(email: string, password: string): Promise<void> {
    this.people.next((await this.api.ask('POST /session', { body: { email, password } })).person);
  }

  /** The first owner of a new shop. @throws ApiError */
  async begin(name: string, email: string, password: string): Promise<void> {
    const answer = await this.api.ask('POST /session/first', { body: { name, email, password } });
    this.people.next(answer.person);
  }

  /** @throws ApiError */
  async signOut(isEverywhere: boolean): Promise<void> {
    await this.api.ask(isEverywhere ? 'DELETE /sessions' : 'DELETE /session');
    this.people.next(undefined);
  }

  /** @throws ApiError */
  async changePassword(before: string, password: string): Promise<void> {
    await this.api.ask('PUT /session/password', { body: { before, password } });
  }

  /** The server knows nobody here any longer. */
  ended(): void {
    this.people.next(undefined);
  }

  /** Whether the one who is signed in makes what others have laid out. */
  get isMaker(): boolean {
    return this.person?.role === 'maker';
  }
}
