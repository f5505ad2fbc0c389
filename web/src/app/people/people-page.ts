import { ROLES } from '@plain-relief/api/states';
import type { AuditEntry, NewPerson, Person, PersonChange } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { LineField } from '../fields/line-field';
import { timeOf } from '../platform/moments';
import { Masthead } from '../shell/masthead';
import { PeopleService } from './people.service';
import { ROLE_WORDS, SessionService } from '../session/session.service';
import { oneOf } from '../platform/one-of';

const NOBODY: NewPerson = { name: '', email: '', role: 'designer', password: '' };

/** Who works in the shop and may do what, what was done, and one's own password. */
@Component({
  selector: 'pr-people-page',
  imports: [LineField, Masthead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './people-page.html',
  styleUrl: './people-page.scss',
})
export class PeoplePage {
  private readonly session = inject(SessionService);
  private readonly service = inject(PeopleService);
  private readonly me = toSignal(this.session.person$);
  protected readonly isOwner = computed(() => this.me()?.role === 'owner');
  protected readonly people = signal<readonly Person[]>([]);
  protected readonly entries = signal<readonly AuditEntry[]>([]);
  protected readonly draft = signal(NOBODY);
  /** Whose password is made anew. */
  protected readonly forgotten = signal<string | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly good = signal('');
  protected readonly roles = ROLES;
  protected readonly oneOf = oneOf;
  protected readonly words = ROLE_WORDS;
  protected readonly time = timeOf;

  protected readonly before = signal('');
  protected readonly wanted = signal('');

  constructor() {
    void this.load();
  }

  protected write(change: Partial<NewPerson>): void {
    this.draft.update((draft) => ({ ...draft, ...change }));
  }

  protected add(): Promise<void> {
    const draft = this.draft();
    return this.attempt(`${draft.name} can sign in now.`, async () => {
      await this.service.add(draft);
      this.draft.set(NOBODY);
    });
  }

  protected change(person: Person, change: PersonChange): Promise<void> {
    return this.attempt(`${person.name} was changed, and is asked to sign in again.`, async () => {
      await this.service.change(person.id, change);
      this.forgotten.set(undefined);
    });
  }

  protected changeOwn(): Promise<void> {
    return this.attempt('Your password is changed; other browsers of yours are signed out.', async () => {
      await this.session.changePassword(this.before(), this.wanted());
      this.before.set('');
      this.wanted.set('');
    });
  }

  private async attempt(good: string, act: () => Promise<unknown>): Promise<void> {
    this.trouble.set('');
    this.good.set('');
    try {
      await act();
      this.good.set(good);
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
    await this.load();
  }

  private async load(): Promise<void> {
    if (!this.isOwner()) return;
    try {
      const [people, entries] = await Promise.all([this.service.all(), this.service.audit()]);
      this.people.set(people);
      this.entries.set(entries);
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }
}
