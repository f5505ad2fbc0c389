import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { type Alignment, canBeBlank, canGoAround, type MeasuredBy, type Part, type Sign } from '@plain-relief/core/sign';
import { oneOf } from '../../platform/one-of';

/** What parts are aligned to: the blank, themselves, or the one chosen last. */
export type AlignedTo = (typeof ALIGNED_TO)[number];
const ALIGNED_TO = ['blank', 'chosen', 'last'] as const;
const MEASURED_BY = ['capitals', 'box'] as const satisfies readonly MeasuredBy[];

export type Arranging =
  | { readonly kind: 'align'; readonly at: Alignment; readonly to: AlignedTo; readonly by: MeasuredBy }
  | { readonly kind: 'spread'; readonly along: 'across' | 'up'; readonly by: MeasuredBy }
  | { readonly kind: 'combine'; readonly how: 'join' | 'cut' | 'common' }
  | { readonly kind: 'split'; readonly into: 'lines' | 'words' }
  | { readonly kind: 'outline' }
  | { readonly kind: 'group' | 'ungroup' | 'lock' | 'hide' | 'turn' | 'turn right' | 'mirror' | 'points' | 'blank' | 'around' };

const ALIGNMENTS: readonly { readonly at: Alignment; readonly text: string; readonly title: string }[] = [
  { at: 'left', text: 'left', title: 'Left edges' },
  { at: 'centre', text: 'centre', title: 'Middles across' },
  { at: 'right', text: 'right', title: 'Right edges' },
  { at: 'top', text: 'top', title: 'Tops' },
  { at: 'middle', text: 'middle', title: 'Middles up' },
  { at: 'bottom', text: 'bottom', title: 'Bottoms' },
];

/** What can be done with the chosen parts: align, spread, group, lock, hide, turn, combine, take apart. */
@Component({
  selector: 'pr-arrange-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './arrange-strip.html',
  styleUrl: './arrange-strip.scss',
})
export class ArrangeStrip {
  readonly parts = input.required<readonly Part[]>();
  readonly sign = input.required<Sign>();
  protected readonly isAround = computed(() => this.parts().length === 1 && canGoAround(this.sign(), this.parts()[0]));
  readonly asked = output<Arranging>();
  protected readonly alignments = ALIGNMENTS;
  private readonly wantedTo = signal<AlignedTo | undefined>(undefined);
  protected readonly by = signal<MeasuredBy>('capitals');
  /** One part goes to the blank, several to each other, until something else is chosen. */
  protected readonly to = computed((): AlignedTo => {
    const wanted = this.wantedTo();
    if (this.parts().length < 2) return 'blank';
    return wanted ?? 'chosen';
  });
  protected readonly last = computed(() => this.parts()[this.parts().length - 1]);
  protected readonly hasText = computed(() => this.parts().some(({ kind }) => kind === 'text'));
  protected readonly isGrouped = computed(() => this.parts().some(({ group }) => group !== undefined));
  protected readonly isLocked = computed(() => this.parts().every(({ locked }) => locked === true));
  protected readonly isHidden = computed(() => this.parts().every(({ hidden }) => hidden === true));
  protected readonly isOutline = computed(() => {
    const [part, more] = this.parts();
    return more === undefined && part.kind === 'shape' && part.shape.kind === 'outline';
  });

  protected readonly canBeBlank = computed(() => this.parts().length === 1 && canBeBlank(this.last()));

  protected align(at: Alignment): void {
    this.asked.emit({ kind: 'align', at, to: this.to(), by: this.by() });
  }

  protected setTo(to: string): void {
    this.wantedTo.set(oneOf(ALIGNED_TO, to));
  }

  protected setBy(by: string): void {
    this.by.set(oneOf(MEASURED_BY, by));
  }
}
