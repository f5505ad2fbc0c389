import type { Shop } from '@plain-relief/core/shop';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import type { ShopKind } from '@plain-relief/api';
import { type KindAnswers, SIGN_KINDS, type Sign, type SignKind, signLike, signOfKind } from '@plain-relief/core/sign';
import { type LengthUnit } from '@plain-relief/core/units';
import { FirstField } from '../fields/first-field';
import { LengthField } from '../fields/length-field';
import { Api } from '../platform/api';

/** A sign that is to be made: its name, and what it begins with. */
export interface NewSign {
  readonly title: string;
  readonly document: Sign;
}

/** One of the kinds that are offered: one that every shop has, or one that this shop keeps. */
interface Offered {
  readonly id: string;
  readonly name: string;
  readonly says: string;
  readonly kind?: SignKind;
}

/** What a sign begins with: one of the shop's kinds, and three questions at most. */
@Component({
  selector: 'pr-new-sign-dialog',
  imports: [FirstField, LengthField, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './new-sign-dialog.html',
  styleUrl: './new-sign-dialog.scss',
})
export class NewSignDialog {
  private readonly modal = inject(NgbActiveModal);
  private readonly api = inject(Api);
  /** Set by whoever opens it. */
  readonly about = signal<{ readonly number: string; readonly unit: LengthUnit }>({ number: '', unit: 'mm' });

  private readonly own = signal<readonly ShopKind[]>([]);
  protected readonly offered = computed((): Offered[] => [
    ...SIGN_KINDS.map((kind) => ({ id: kind.id, name: kind.name, says: kind.says, kind })),
    ...this.own().map(({ id, name }) => ({ id, name, says: 'One of the shop’s own signs, to be begun from.' })),
  ]);
  protected readonly chosen = signal<Offered>({ ...SIGN_KINDS[0], kind: SIGN_KINDS[0] });
  protected readonly size = linkedSignal(() => {
    const { width, height } = this.chosen().kind?.usual ?? { width: 0, height: 0 };
    return { width, height };
  });
  protected readonly form = new FormGroup({
    title: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.pattern(/\S/u)] }),
    words: new FormControl(SIGN_KINDS[0].usual.words, { nonNullable: true }),
    material: new FormControl(SIGN_KINDS[0].usual.material, { nonNullable: true }),
  });
  /** The shop's own, to choose from. */
  protected readonly materials = signal<Shop['materials']>([]);
  protected readonly trouble = signal('');
  protected readonly isMaking = signal(false);

  constructor() {
    this.api
      .ask('GET /shop/kinds')
      .then((kinds) => this.own.set(kinds))
      // The kinds that every shop has are there all the same.
      .catch(() => undefined);
    this.api
      .ask('GET /shop/library')
      .then(({ library }) => this.materials.set(library.materials))
      // Any words name a material as well.
      .catch(() => undefined);
  }

  protected choose(kind: Offered): void {
    const before = this.chosen().kind?.usual;
    this.chosen.set(kind);
    const { words, material } = this.form.controls;
    // What was typed stays; what was only offered goes with its kind.
    if (words.value === (before?.words ?? '')) words.setValue(kind.kind?.usual.words ?? '');
    if (material.value === (before?.material ?? '')) material.setValue(kind.kind?.usual.material ?? '');
  }

  protected setWidth(width: number): void {
    this.size.update(({ height }) => ({ width, height: this.chosen().kind?.isEven ? width : height }));
  }

  protected setHeight(height: number): void {
    this.size.update(({ width }) => ({ width, height }));
  }

  protected leave(): void {
    this.modal.dismiss();
  }

  protected async make(): Promise<void> {
    const title = this.form.controls.title.value.trim();
    if (title === '') return this.trouble.set('Give the sign a name, such as “West gate plaque”.');
    this.isMaking.set(true);
    this.trouble.set('');
    try {
      this.modal.close({ title, document: await this.document(title) } satisfies NewSign);
    } catch (error) {
      this.trouble.set((error as Error).message);
    } finally {
      this.isMaking.set(false);
    }
  }

  private async document(title: string): Promise<Sign> {
    const { words, material } = this.form.getRawValue();
    const { id, kind } = this.chosen();
    if (!kind) {
      const { document } = await this.api.ask('GET /shop/kinds/:id', { params: { id } });
      return signLike(document, title, { ...(words.trim() && { words }), ...(material.trim() && { material: material.trim() }) });
    }
    const answers: KindAnswers = { ...this.size(), words, material: material.trim() };
    return signOfKind(kind, title, this.about().unit, answers);
  }
}
