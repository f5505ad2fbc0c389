import { type Role, ROLES } from '@plain-relief/api/states';
import type { AuditEntry, Person, PersonChange } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { LineField } from '../fields/line-field';
import { timeOf } from '../platform/moments';
import { Masthead } from '../shell/masthead';
import { PeopleService } from './people.service';
import { ROLE_WORDS, SessionService } from '../session/session.service';
import { oneOf } from '../platform/one-of';
import { attempt } from '../platform/attempt';

/** Who works in the shop and may do what, what was done, and one's own password. */
@Component({
  selector: 'pr-people-page',
  imports: [LineField, Masthead, ReactiveFormsModule],
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
  /** Whose password is made anew. */
  protected readonly forgotten = signal<string | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly good = signal('');
  protected readonly roles = ROLES;
  protected readonly oneOf = oneOf;
  protected readonly words = ROLE_WORDS;
  protected readonly time = timeOf;

  private readonly build = inject(NonNullableFormBuilder);
  protected readonly newcomer = this.build.group({
    name: '',
    email: '',
    role: this.build.control<Role>('designer'),
    password: '',
  });
  protected readonly own = this.build.group({ before: '', wanted: '' });

  constructor() {
    void this.load();
  }

  protected add(): Promise<void> {
    const draft = this.newcomer.getRawValue();
    return this.attempt(`${draft.name} can sign in now.`, async () => {
      await this.service.add(draft);
      this.newcomer.reset();
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
      const { before, wanted } = this.own.getRawValue();
      await this.session.changePassword(before, wanted);
      this.own.reset();
    });
  }

  private async attempt(good: string, act: () => Promise<unknown>): Promise<void> {
    this.good.set('');
    if (await attempt(this.trouble, act)) this.good.set(good);
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
