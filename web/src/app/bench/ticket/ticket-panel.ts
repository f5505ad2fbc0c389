import { NgTemplateOutlet } from '@angular/common';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { fontFaults, standardOf } from '@plain-relief/core/inspection';
import {
  NgbDropdown,
  NgbDropdownButtonItem,
  NgbDropdownItem,
  NgbDropdownMenu,
  NgbDropdownToggle,
} from '@ng-bootstrap/ng-bootstrap/dropdown';
import {
  type Blank,
  blankLine,
  type FieldPath,
  type Finish,
  type LetterByHand,
  limitsAt,
  type Measure,
  measureLimitsAt,
  type Part,
  type PartExtent,
  partLine,
  type Sentence,
  type Sign,
  type SoughtValue,
  soughtValues,
  ticket,
  type TicketField,
  type TicketWord,
  type Topic,
  isStale,
} from '@plain-relief/core/sign';
import { type FontEntry, type LetterGap } from '@plain-relief/core/type';
import { ChoiceField } from '../../fields/choice-field';
import { FontField } from '../../fields/font-field';
import { LengthField } from '../../fields/length-field';
import { MeasureField } from '../../fields/measure-field';
import { NameField } from '../../fields/name-field';
import { NumberField } from '../../fields/number-field';
import { SlotWords } from '../../fields/slot-words';
import { WordsField } from '../../fields/words-field';
import type { AddedShape } from '../document/added-shape';
import { type Arranging, ArrangeStrip } from '../plan/arrange-strip';
import { LineFromDrawing } from './line-from-drawing';
import { BlankShelf } from './blank-shelf';
import { BrailleStrip } from './braille-strip';
import { LetterStrip } from './letter-strip';
import { ValueSearch } from './value-search';

export interface FieldChange {
  readonly path: FieldPath;
  readonly value: string | number | Measure;
  readonly label: string;
}

/** Something set by hand on one letter of a part. */
export interface LetterSetting {
  readonly part: string;
  readonly at: number;
  readonly change: Partial<Omit<LetterByHand, 'at'>>;
}

/** What is said of the part in focus, or of the blank. */
interface Told {
  readonly sentences: readonly Sentence[];
  /** Whether something goes without saying, and is shown when more is asked for. */
  readonly hasMore: boolean;
}

interface Block extends Told {
  readonly part: Part;
  /** All of it in one line. */
  readonly line: string;
  readonly words: Extract<TicketField, { kind: 'words' }> | undefined;
  readonly tiers: readonly Sentence[];
}

const SHAPES: readonly { readonly kind: AddedShape; readonly text: string }[] = [
  { kind: 'rectangle', text: 'A panel' },
  { kind: 'circle', text: 'A hole' },
  { kind: 'fixings', text: 'Fixing holes that follow the blank' },
  { kind: 'border', text: 'A border that follows the blank' },
  { kind: 'ellipse', text: 'An ellipse' },
  { kind: 'stadium', text: 'A stadium' },
  { kind: 'polygon', text: 'A regular polygon' },
  { kind: 'arch', text: 'An arch' },
  { kind: 'sector', text: 'A piece of a ring' },
  { kind: 'line', text: 'A straight rule' },
  { kind: 'braille', text: 'Braille of the words' },
  { kind: 'code', text: 'A code to scan' },
  { kind: 'outline', text: 'A free outline, point by point' },
];

/** A sentence without what goes without saying. */
const loud = (sentence: Sentence): Sentence => ({ ...sentence, words: sentence.words.filter((word) => !word.isQuiet) });

/**
 * The work order in sentences, every value edited where it stands. What is in focus unfolds, a part or the blank where none is
 * selected, and says what the step is about; all else is a line each.
 */
@Component({
  selector: 'pr-ticket-panel',
  imports: [
    NgTemplateOutlet,
    ChoiceField,
    FontField,
    LengthField,
    LetterStrip,
    MeasureField,
    ArrangeStrip,
    BlankShelf,
    LineFromDrawing,
    BrailleStrip,
    NameField,
    NumberField,
    ValueSearch,
    SlotWords,
    WordsField,
    NgbDropdown,
    NgbDropdownToggle,
    NgbDropdownMenu,
    NgbDropdownItem,
    NgbDropdownButtonItem,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ticket-panel.html',
  styleUrls: ['./panel.scss', './ticket-panel.scss'],
})
export class TicketPanel {
  readonly sign = input.required<Sign>();
  /** What the step is about. */
  readonly topic = input.required<Topic>();
  readonly topicAsked = output<Topic>();
  readonly fonts = input.required<readonly FontEntry[]>();
  readonly selected = input<string>();
  /** The chosen parts, the selected one last. */
  readonly chosen = input<readonly Part[]>([]);
  readonly arranged = output<Arranging>();
  readonly groundTaken = output();
  readonly blankTaken = output<Blank>();
  readonly designScaled = output<number>();
  readonly renamed = output<{ readonly index: number; readonly name: string }>();
  /** A part, or the blank. */
  readonly picked = output<string | undefined>();
  readonly pickedToo = output<string>();
  readonly fieldChanged = output<FieldChange>();
  readonly textAdded = output();
  /** Gaps between the letters of the selected part. */
  readonly gaps = input<readonly LetterGap[]>([]);
  readonly shapeAdded = output<AddedShape>();
  readonly letterSet = output<LetterSetting>();
  readonly openedUp = output<{ readonly part: string; readonly diameter: number }>();
  readonly artworkAsked = output();
  readonly copied = output();
  readonly removed = output();
  readonly reordered = output<{ readonly part: string; readonly by: -1 | 1 }>();
  readonly tierAdded = output<string>();
  readonly tierRemoved = output<{ readonly part: string; readonly tier: string }>();
  readonly tierSwitched = output<{ readonly part: string; readonly tier: string }>();

  /** The gaps are of before, and are being measured anew. */
  readonly areGapsOld = input(false);
  /** How large one copy of each part is, as far as it was worked out, by the part's id. */
  readonly extents = input<ReadonlyMap<string, PartExtent>>(new Map());
  /** Those of the shop. */
  readonly finishes = input<readonly Finish[]>([]);
  /** Written here from the document itself, so that a field never shows what it was before. */
  private readonly sentences = computed(() => ticket(this.sign(), this.fonts(), this.finishes(), this.extents()));
  /** Whether what goes without saying is shown of what is in focus; not of the next one. */
  protected readonly isMoreShown = linkedSignal({ source: this.selected, computation: () => false });
  protected readonly isBlankOpen = computed(() => this.selected() === undefined);
  protected readonly blankLine = computed(() => blankLine(this.sign()));
  protected readonly blank = computed(() =>
    this.told(this.sentences().filter(({ part, isGround }) => part === undefined && !isGround)),
  );
  protected readonly ground = computed(() => this.sentences().find(({ isGround }) => isGround));
  protected readonly blocks = computed<readonly Block[]>(() => {
    const sign = this.sign();
    return sign.parts.map((part) => {
      const line = partLine(sign, part, this.fonts());
      if (part.id !== this.selected()) return { part, line, words: undefined, sentences: [], tiers: [], hasMore: false };
      const { sentences, hasMore } = this.told(this.sentences().filter((sentence) => sentence.part === part.id));
      const said = sentences.filter(({ tier }) => tier === undefined);
      const words = said[0]?.words[0]?.field;
      return {
        part,
        line,
        hasMore,
        words: words?.kind === 'words' ? words : undefined,
        sentences: said,
        tiers: sentences.filter(({ tier }) => tier !== undefined),
      };
    });
  });
  protected readonly shapes = SHAPES;
  /** The values that answer a question. */
  protected readonly valuesFor = (question: string): SoughtValue[] =>
    soughtValues(this.sentences(), this.sign(), question, this.selected());
  /** The value that is gone to, until it is there. */
  private readonly sought = signal<SoughtValue | undefined>(undefined);
  private readonly injector = inject(Injector);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  constructor() {
    effect(() => {
      const value = this.sought();
      if (!value || value.topic !== this.topic() || value.part !== this.selected()) return;
      this.sought.set(undefined);
      if (value.isQuiet) this.isMoreShown.set(true);
      afterNextRender(() => this.enter(value.field), { injector: this.injector });
    });
  }

  private readonly search = viewChild(ValueSearch);

  /** Asks for a value to be found. */
  find(): void {
    this.search()?.focus();
  }

  /** Goes to a value wherever it is: its part, its step, and what goes without saying there. */
  protected seek(value: SoughtValue): void {
    this.sought.set(value);
    if (value.part !== this.selected()) this.picked.emit(value.part);
    if (value.topic !== this.topic()) this.topicAsked.emit(value.topic);
  }

  private enter({ path }: TicketField): void {
    const all = [...this.host.nativeElement.querySelectorAll<HTMLElement>('[data-field]')];
    const place = all.find(({ dataset }) => dataset['field'] === path.join('.'));
    const field = place?.querySelector<HTMLElement>('input, select, textarea, button');
    field?.focus();
    place?.scrollIntoView?.({ block: 'nearest' });
    if (field instanceof HTMLInputElement) field.select();
  }

  /** Of what is said, what the step is about: all of it, or what does not go without saying. */
  private told(sentences: readonly Sentence[]): Told {
    const own = sentences.filter(({ topic }) => topic === this.topic());
    const said = this.isMoreShown() ? own : own.map(loud);
    return {
      sentences: said.filter(({ words }) => words.length > 0),
      hasMore: own.some(({ words }) => words.some(({ isQuiet }) => isQuiet)),
    };
  }

  protected pickedAgain(part: string, isAdding: boolean): void {
    if (isAdding) this.pickedToo.emit(part);
    else this.picked.emit(part);
  }

  protected limits(path: FieldPath) {
    return limitsAt(this.sign(), path);
  }

  protected measureLimits(path: FieldPath) {
    return measureLimitsAt(this.sign(), path);
  }

  /** For every part what fonts do not meet of the sign's standard; nothing where it is to meet none. */
  private readonly faultsByPart = computed(() => {
    const sign = this.sign();
    const standard = standardOf(sign.checks?.standard);
    return standard
      ? sign.parts.map((part) => {
          const height = part.kind === 'text' && part.size.kind === 'capitals' ? part.size.height : undefined;
          return (entry: FontEntry) => fontFaults(standard, entry, height);
        })
      : [];
  });

  protected fontFaultsOf(path: FieldPath): ((entry: FontEntry) => readonly string[]) | undefined {
    return this.faultsByPart()[path[1] as number];
  }

  protected wordsOf(path: FieldPath): string {
    const part = this.sign().parts[path[1] as number];
    return part?.kind === 'text' ? part.words : '';
  }

  /**
   * Words with what they are known by while others come and go before them: their field, or the field that they follow. So a field
   * that is being typed into stays when selecting its part brings more words.
   */
  protected keyedWords({ words }: Sentence): { readonly key: string; readonly word: TicketWord }[] {
    let field = '';
    let after = 0;
    return words.map((word) => {
      if (word.field) [field, after] = [word.field.path.join('.'), 0];
      return { key: `${field} ${after++}`, word };
    });
  }

  /** Cells of a part in braille, with what they are to say. */
  protected brailleOf(part: Part): { readonly cells: string; readonly table: string; readonly isStale: boolean } | undefined {
    if (part.kind !== 'shape' || part.shape.kind !== 'braille') return undefined;
    const { cells, table } = part.shape;
    return { cells, table, isStale: isStale(this.sign(), part.shape) };
  }

  protected isChosen(part: Part): boolean {
    return this.chosen().includes(part) || part.id === this.selected();
  }

  protected isNew(part: Part): boolean {
    return part.kind === 'text' && part.words === '' && part.id === this.selected();
  }

  protected isOn(part: Part, tier: string | undefined): boolean {
    return part.tiers.find(({ id }) => id === tier)?.on ?? true;
  }
}
