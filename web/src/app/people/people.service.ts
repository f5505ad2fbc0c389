import { inject, Injectable } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { Api } from '../platform/api';
import type { Person, Role } from '../session/session.service';

export interface NewPerson {
  readonly name: string;
  readonly email: string;
  readonly role: Role;
  readonly password: string;
}
export interface PersonChange {
  readonly role?: Role;
  readonly password?: string;
  readonly hasLeft?: boolean;
}
/** A line of the audit trail. */
export interface Deed {
  readonly at: string;
  readonly who: string;
  readonly deed: string;
  readonly subject: string;
}

/** The people of the shop, for its owners. All of it throws ApiError. */
@Injectable({ providedIn: 'root' })
export class PeopleService {
  private readonly api = inject(Api);

  async all(): Promise<readonly Person[]> {
    return (await firstValueFrom(this.api.get<{ people: Person[] }>('/people'))).people;
  }
  async deeds(): Promise<readonly Deed[]> {
    return (await firstValueFrom(this.api.get<{ deeds: Deed[] }>('/deeds'))).deeds;
  }
  add(person: NewPerson): Promise<Person> {
    return firstValueFrom(this.api.post<Person>('/people', person));
  }
  change(id: string, change: PersonChange): Promise<Person> {
    return firstValueFrom(this.api.patch<Person>(`/people/${id}`, change));
  }
}
