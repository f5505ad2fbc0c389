import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { type LetterByHand, type TextPart } from '@plain-relief/core/sign';
import { plainWords, type LetterGap } from '@plain-relief/core/type';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../../fields/length-field';
import { NumberField } from '../../fields/number-field';

interface StripLetter {
  readonly at: number;
  readonly text: string;
  readonly isSet: boolean;
  /** The gap to the letter that is read next. */
  readonly gap?: LetterGap;
}

/** What an arrow key adds to a gap: 0.1 mm or 1/64 in. */
const kernStep = (unit: LengthUnit): number => (unit === 'mm' ? 0.1 : 25.4 / 64);

/**
 * The letters of a text with the gaps between them: a gap is opened and closed by keys or by number with its least distance
 * in view, a letter shifted, turned and sized, and the whole opened up for a tool.
 */
@Component({
  selector: 'pr-letter-strip',
  imports: [LengthField, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './letter-strip.html',
  styleUrl: './letter-strip.scss',
})
export class LetterStrip {
  readonly part = input.required<TextPart>();
  readonly unit = input.required<LengthUnit>();
  readonly gaps = input.required<readonly LetterGap[]>();
  /** They are of before, and are being measured anew. */
  readonly isOld = input(false);
  readonly letterSet = output<{ readonly at: number; readonly change: Partial<Omit<LetterByHand, 'at'>> }>();
  readonly opened = output<number>();
  protected readonly isOpen = signal(false);
  /** The letter whose gap, or which itself, is being set. */
  private readonly chosenAt = signal<{ readonly at: number; readonly what: 'gap' | 'letter' } | undefined>(undefined);
  protected readonly tool = signal(3);

  protected readonly lines = computed<readonly (readonly StripLetter[])[]>(() => {
    const gaps = new Map(this.gaps().flatMap((gap) => (gap.areNeighbours ? [[gap.from, gap]] : [])));
    const set = new Set((this.part().letters ?? []).map(({ at }) => at));
    let at = 0;
    return plainWords(this.part().words)
      .split('\n')
      .map((line) => {
        const letters = [...line].map((text) => {
          const letter = { at, text, isSet: set.has(at), gap: gaps.get(at) };
          at += text.length;
          return letter;
        });
        at++;
        return letters;
      });
  });
  protected readonly narrowest = computed(() => {
    const open = this.gaps().filter(({ isJoined }) => !isJoined);
    if (open.length === 0) return undefined;
    const least = open.reduce((a, b) => (b.gap < a.gap ? b : a));
    return least.areNeighbours ? this.show(least.gap) : `${this.show(least.gap)}, between ${this.named(least)}`;
  });
  protected readonly chosen = computed(() => {
    const chosen = this.chosenAt();
    const letter = this.lines()
      .flat()
      .find(({ at }) => at === chosen?.at);
    if (!chosen || !letter) return undefined;
    const hand = this.part().letters?.find(({ at }) => at === letter.at);
    const next = this.lines()
      .flat()
      .find(({ at }) => at === letter.gap?.to);
    return { ...chosen, letter, next: next?.text ?? '', gap: letter.gap && this.gapText(letter.gap), hand };
  });

  protected choose(at: number, what: 'gap' | 'letter'): void {
    const now = this.chosenAt();
    this.chosenAt.set(now?.at === at && now.what === what ? undefined : { at, what });
  }

  protected isChosen(at: number, what: 'gap' | 'letter'): boolean {
    return this.chosenAt()?.at === at && this.chosenAt()?.what === what;
  }

  protected set(at: number, change: Partial<Omit<LetterByHand, 'at'>>): void {
    this.letterSet.emit({ at, change });
  }

  /** Left and right arrows close and open a gap, ten times as much with Shift. */
  protected nudge(at: number, event: KeyboardEvent): void {
    const sense = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (sense === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    this.chosenAt.set({ at, what: 'gap' });
    const before = this.part().letters?.find((letter) => letter.at === at)?.kern ?? 0;
    const kern = before + sense * kernStep(this.unit()) * (event.shiftKey ? 10 : 1);
    this.set(at, { kern: Number(kern.toFixed(6)) });
  }

  protected gapText({ gap, isJoined }: LetterGap): string {
    return isJoined ? 'joined' : this.show(gap);
  }

  /** "“E” of line 1 and “T” of line 2". */
  private named({ from, to }: LetterGap): string {
    const lines = this.lines();
    const names = [from, to].map((wanted) => {
      const index = lines.findIndex((line) => line.some(({ at }) => at === wanted));
      const { text } = lines[index]?.find(({ at }) => at === wanted) ?? { text: '' };
      return lines.length > 1 ? `“${text}” of line ${index + 1}` : `“${text}”`;
    });
    return names.join(' and ');
  }

  private show(mm: number): string {
    return formatLength(mm, this.unit());
  }
}
