import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import {
  NgbDropdown,
  NgbDropdownButtonItem,
  NgbDropdownItem,
  NgbDropdownMenu,
  NgbDropdownToggle,
} from '@ng-bootstrap/ng-bootstrap/dropdown';
import { type FieldPath, type Part, type Sentence, type Sign, ticket } from '@plain-relief/core/sign';
import type { FontEntry } from '@plain-relief/core/type';
import { ChoiceField } from '../fields/choice-field';
import { FontField } from '../fields/font-field';
import { LengthField } from '../fields/length-field';
import { NumberField } from '../fields/number-field';
import { WordsField } from '../fields/words-field';
import { limitsOf } from './limits';

export interface FieldChange {
  readonly path: FieldPath;
  readonly value: string | number;
  readonly label: string;
}

interface Block {
  readonly part: Part;
  readonly sentence: Sentence | undefined;
  readonly tiers: readonly Sentence[];
}

/** The work order in sentences, every value edited where it stands. */
@Component({
  selector: 'pr-ticket-panel',
  imports: [
    NgTemplateOutlet,
    ChoiceField,
    FontField,
    LengthField,
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
  readonly picked = output<string>();
  readonly fieldChanged = output<FieldChange>();
  readonly textAdded = output();
  readonly shapeAdded = output<'rectangle' | 'circle'>();
  readonly copied = output<string>();
  readonly removed = output<string>();
  readonly reordered = output<{ readonly part: string; readonly by: -1 | 1 }>();
  readonly tierAdded = output<string>();
  readonly tierRemoved = output<{ readonly part: string; readonly tier: string }>();
  readonly tierSwitched = output<{ readonly part: string; readonly tier: string }>();

  /** Written here from the document itself, so that a field never shows what it was before. */
  private readonly sentences = computed(() => ticket(this.sign(), this.fonts()));
  protected readonly blank = computed(() => this.sentences().find(({ part }) => part === undefined));
  protected readonly blocks = computed<readonly Block[]>(() => {
    const sentences = this.sentences();
    return this.sign().parts.map((part) => ({
      part,
      sentence: sentences.find((sentence) => sentence.part === part.id && sentence.tier === undefined),
      tiers: sentences.filter((sentence) => sentence.part === part.id && sentence.tier !== undefined),
    }));
  });
  protected readonly limits = limitsOf;

  protected wordsOf(path: FieldPath): string {
    const part = this.sign().parts[path[1] as number];
    return part?.kind === 'text' ? part.words : '';
  }

  protected isNew(part: Part): boolean {
    return part.kind === 'text' && part.words === '' && part.id === this.selected();
  }

  protected isOn(part: Part, tier: string | undefined): boolean {
    return part.tiers.find(({ id }) => id === tier)?.on ?? true;
  }
}
