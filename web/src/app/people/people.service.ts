import { inject, Injectable } from '@angular/core';
import type { AuditEntry, NewPerson, Person, PersonChange } from '@plain-relief/api';
import { Api } from '../platform/api';

/** The people of the shop, for its owners. All of it throws ApiError. */
@Injectable({ providedIn: 'root' })
export class PeopleService {
  private readonly api = inject(Api);

  async all(): Promise<readonly Person[]> {
    return (await this.api.ask('GET /people')).people;
  }
  async audit(): Promise<readonly AuditEntry[]> {
    return (await this.api.ask('GET /audit')).entries;
  }
  add(person: NewPerson): Promise<Person> {
    return this.api.ask('POST /people', { body: person });
  }
  change(id: string, change: PersonChange): Promise<Person> {
    return this.api.ask('PATCH /people/:id', { params: { id }, body: change });
  }
}
