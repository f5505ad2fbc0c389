import { inject, Injectable } from '@angular/core';
import { BehaviorSubject, firstValueFrom, type Observable } from 'rxjs';
import { Api } from '../platform/api';

export const ROLES = ['maker', 'designer', 'owner'] as const;
export type Role = (typeof ROLES)[number];

/** What each may do, for those who choose one. */
export const ROLE_WORDS: Readonly<Record<Role, string>> = {
  maker: 'sees everything, makes files of what was approved, moves jobs through the shop',
  designer: 'makes jobs, signs and proofs as well',
  owner: 'names the people of the shop as well',
};

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly hasLeft: boolean;
}

/** What somebody who is not signed in is told. */
export interface Door {
  /** There is nobody yet: the first to come becomes the owner. */
  readonly isNew: boolean;
  readonly demo?: { readonly password: string; readonly people: readonly Pick<Person, 'name' | 'email' | 'role'>[] };
}

type Answer = { readonly person: Person } | (Door & { readonly person?: undefined });

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
    const answer = await firstValueFrom(this.api.get<Answer>('/session'));
    this.people.next(answer.person);
    return answer.person ? undefined : answer;
  }

  /** @throws ApiError */
  async signIn(email: string, password: string): Promise<void> {
    this.people.next((await firstValueFrom(this.api.post<{ person: Person }>('/session', { email, password }))).person);
  }

  /** The first owner of a new shop. @throws ApiError */
  async begin(name: string, email: string, password: string): Promise<void> {
    const answer = await firstValueFrom(this.api.post<{ person: Person }>('/session/first', { name, email, password }));
    this.people.next(answer.person);
  }

  /** @throws ApiError */
  async signOut(isEverywhere: boolean): Promise<void> {
    await firstValueFrom(this.api.delete(isEverywhere ? '/sessions' : '/session'));
    this.people.next(undefined);
  }

  /** @throws ApiError */
  async changePassword(before: string, password: string): Promise<void> {
    await firstValueFrom(this.api.put('/session/password', { before, password }));
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
