import { inject, Injectable } from '@angular/core';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { changesBetween } from '@plain-relief/core/sign';
import { distinctUntilChanged, map } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ReliefService } from '../../relief/relief.service';
import { Notices } from '../../platform/notices';
import { ConflictDialog } from './conflict-dialog';
import { RevisionsDialog, type TakenUp } from './revisions-dialog';
import { SignStore } from './sign-store';

/** What was saved earlier or elsewhere: asks where two saves met, and opens revisions. */
@Injectable()
export class Earlier {
  private readonly store = inject(SignStore);
  private readonly relief = inject(ReliefService);
  private readonly modals = inject(NgbModal);
  private readonly notices = inject(Notices);

  constructor() {
    this.store.state$
      .pipe(
        map((state) => state?.save.kind === 'conflict'),
        distinctUntilChanged(),
        takeUntilDestroyed(),
      )
      .subscribe((isConflict) => {
        if (isConflict) void this.settle();
      });
  }

  /** Shows the revisions of the sign, and takes up the one that is chosen. */
  async show(): Promise<void> {
    const { id } = this.store.now ?? {};
    const sign = this.store.whole;
    if (id === undefined || !sign) return;
    const dialog = this.modals.open(RevisionsDialog, { size: 'lg', ariaLabelledBy: 'revisions-title', animation: false });
    void (dialog.componentInstance as RevisionsDialog).open({ id, sign, fonts: await this.relief.fonts() });
    const taken = await dialog.result.catch(() => undefined as TakenUp | undefined);
    if (taken) this.store.takeUp(taken.document, taken.name);
  }

  private async settle(): Promise<void> {
    const save = this.store.now?.save;
    const mine = this.store.whole;
    if (save?.kind !== 'conflict' || !mine) return;
    const { theirs, revision, savedAt } = save.conflict;
    const dialog = this.modals.open(ConflictDialog, {
      ariaLabelledBy: 'conflict-title',
      animation: false,
      backdrop: 'static',
      keyboard: false,
    });
    const differences = changesBetween(theirs, mine, await this.relief.fonts());
    (dialog.componentInstance as ConflictDialog).meeting.set({ base: save.revision, theirs: revision, savedAt, differences });
    const answer: unknown = await dialog.result.catch(() => undefined);
    if (answer === 'mine') this.store.keepMine();
    if (answer !== 'theirs') return;
    await this.store.takeTheirs();
    this.notices.say('Theirs is on the bench; yours is set aside among the revisions of the sign.', {
      words: 'Show the revisions',
      run: () => this.show(),
    });
  }
}
