import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import {
  NgbDropdown,
  NgbDropdownButtonItem,
  NgbDropdownItem,
  NgbDropdownMenu,
  NgbDropdownToggle,
} from '@ng-bootstrap/ng-bootstrap/dropdown';
import {
  type Blank,
  type FieldPath,
  type Finish,
  type LetterByHand,
  limitsAt,
  type Measure,
  measureLimitsAt,
  type Part,
  type PartExtent,
  type Sentence,
  type Sign,
  ticket,
  type TicketField,
  type TicketWord,
} from '@plain-relief/core/sign';
import { type FontEntry, type LetterGap } from '@plain-relief/core/type';
import { ChoiceField } from '../../fields/choice-field';
import { FontField } from '../../fields/font-field';
import { LengthField } from '../../fields/length-field';
import { MeasureField } from '../../fields/measure-field';
import { NameField } from '../../fields/name-field';
import { NumberField } from '../../fields/number-field';
import { WordsField } from '../../fields/words-field';
import type { AddedShape } from '../document/sign-store';
import { type Arranging, ArrangeStrip } from '../plan/arrange-strip';
import { BlankShelf } from './blank-shelf';
import { LetterStrip } from './letter-strip';

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

interface Block {
  readonly part: Part;
  readonly words: Extract<TicketField, { kind: 'words' }> | undefined;
  readonly sentences: readonly Sentence[];
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
  { kind: 'line', text: 'A straight rule' },
  { kind: 'outline', text: 'A free outline, point by point' },
];

/** What goes without saying of a part is shown while it is selected. */
const loud = (sentence: Sentence): Sentence => ({ ...sentence, words: sentence.words.filter((word) => !word.isQuiet) });

/** The work order in sentences, every value edited where it stands. */
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
    NameField,
    NumberField,
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
  readonly fonts = input.required<readonly FontEntry[]>();
  readonly selected = input<string>();
  /** The chosen parts, the selected one last. */
  readonly chosen = input<readonly Part[]>([]);
  readonly arranged = output<Arranging>();
  readonly groundTaken = output();
  readonly blankTaken = output<Blank>();
  readonly designScaled = output<number>();
  readonly renamed = output<{ readonly index: number; readonly name: string }>();
  readonly picked = output<string>();
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
  protected readonly blank = computed(() => this.sentences().filter(({ part, isGround }) => part === undefined && !isGround));
  protected readonly ground = computed(() => this.sentences().find(({ isGround }) => isGround));
  protected readonly blocks = computed<readonly Block[]>(() => {
    const sentences = this.sentences();
    const selected = this.selected();
    return this.sign().parts.map((part) => {
      const own = sentences.filter((sentence) => sentence.part === part.id);
      const said = own
        .filter(({ tier }) => tier === undefined)
        .map((sentence) => (part.id === selected ? sentence : loud(sentence)))
        .filter(({ words }) => words.length > 0);
      const words = said[0]?.words[0]?.field;
      return {
        part,
        words: words?.kind === 'words' ? words : undefined,
        sentences: said,
        tiers: own.filter((sentence) => sentence.tier !== undefined),
      };
    });
  });
  protected readonly shapes = SHAPES;

  protected limits(path: FieldPath) {
    return limitsAt(this.sign(), path);
  }

  protected measureLimits(path: FieldPath) {
    return measureLimitsAt(this.sign(), path);
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
