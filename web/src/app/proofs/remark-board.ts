import type { Remark, ShopRemark } from '@plain-relief/api';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  Injector,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { timeOf } from '../platform/moments';

/** The picture of a frozen sign with what was said about its places; a new remark is pinned by pointing. */
@Component({
  selector: 'pr-remark-board',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './remark-board.html',
  styleUrl: './remark-board.scss',
})
export class RemarkBoard {
  readonly picture = input.required<string>();
  readonly title = input.required<string>();
  readonly signId = input.required<string>();
  readonly option = input<string>();
  readonly remarks = input<readonly Remark[]>([]);
  /** Whether more may be said. */
  readonly isOpen = input(false);
  readonly said = output<ShopRemark>();
  protected readonly place = signal<{ across: number; down: number } | undefined>(undefined);
  protected readonly isWriting = signal(false);
  protected readonly text = signal('');
  protected readonly isMissing = signal(false);
  protected readonly isThere = signal(false);
  /** Those of the sign, with the number that stands on their pin. */
  protected readonly numbered = computed(() =>
    this.remarks()
      .filter(({ signId, run }) => signId === this.signId() && run === null)
      .map((remark, i) => ({ ...remark, number: i + 1, isHere: (remark.option ?? undefined) === this.option() })),
  );
  protected readonly time = timeOf;
  private readonly words = viewChild<ElementRef<HTMLTextAreaElement>>('words');
  private readonly injector = inject(Injector);

  protected pin(event: MouseEvent): void {
    if (!this.isOpen()) return;
    const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
    // A press of a key on the picture has no place: the remark is of the whole sign.
    const isPointed = event.detail > 0;
    const share = (at: number, from: number, size: number) => Math.min(1, Math.max(0, (at - from) / size));
    this.place.set(
      isPointed
        ? { across: share(event.clientX, box.left, box.width), down: share(event.clientY, box.top, box.height) }
        : undefined,
    );
    this.beginWriting();
  }

  protected write(): void {
    this.place.set(undefined);
    this.beginWriting();
  }

  /** What is typed next belongs to the remark, also where its place is pointed at a second time. */
  private beginWriting(): void {
    this.isWriting.set(true);
    afterNextRender(() => this.words()?.nativeElement.focus(), { injector: this.injector });
  }

  protected drop(): void {
    this.isWriting.set(false);
    this.place.set(undefined);
    this.text.set('');
  }

  protected say(): void {
    const text = this.text().trim();
    if (text === '') return;
    const option = this.option();
    this.said.emit({ signId: this.signId(), ...(option !== undefined && { option }), ...this.place(), text });
    this.drop();
  }
}
