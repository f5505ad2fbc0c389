import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import {
  NgbDropdown,
  NgbDropdownButtonItem,
  NgbDropdownItem,
  NgbDropdownMenu,
  NgbDropdownToggle,
} from '@ng-bootstrap/ng-bootstrap/dropdown';
import { covers, type FontEntry } from '@plain-relief/core/type';
import { FontFaces } from './font-faces';

interface FontChoice {
  readonly entry: FontEntry;
  /** Characters of the words that the font lacks. */
  readonly missing: string;
  /** What it does not meet of the standard. */
  readonly faults: readonly string[];
}

/** The font of a text part, chosen from those at hand with a sample in the part's own words. */
@Component({
  selector: 'pr-font-field',
  imports: [NgbDropdown, NgbDropdownToggle, NgbDropdownMenu, NgbDropdownItem, NgbDropdownButtonItem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span ngbDropdown container="body" display="dynamic" (openChange)="opened($event)">
      <button type="button" ngbDropdownToggle class="font" [attr.aria-label]="'Font: ' + name()">{{ name() }}</button>
      <div ngbDropdownMenu class="fonts">
        @if (isOpen()) {
          @if (faultsOf(); as known) {
            <label class="only">
              <input #onlyField type="checkbox" [checked]="isOnly()" (change)="isOnly.set(onlyField.checked)" />
              only those that meet the standard at this size
            </label>
          }
          @for (group of groups(); track group.name) {
            <h6 class="dropdown-header">{{ group.name }}</h6>
            @for (choice of group.choices; track choice.entry.id) {
              <button
                type="button"
                ngbDropdownItem
                class="choice"
                [class.active]="choice.entry.id === value()"
                (click)="changed.emit(choice.entry.id)"
              >
                <span class="sample" [style.font-family]="faces.family(choice.entry)">{{ sample() }}</span>
                <span class="name">{{ choice.entry.family }} {{ choice.entry.style }}</span>
                @if (choice.missing) {
                  <span class="lacks">lacks {{ choice.missing }}</span>
                }
                @for (fault of choice.faults; track fault) {
                  <span class="lacks fault">{{ fault }}</span>
                }
              </button>
            }
          }
        }
      </div>
    </span>
  `,
  styleUrl: './font-field.scss',
})
export class FontField {
  readonly value = input.required<string>();
  readonly words = input('');
  readonly catalogue = input.required<readonly FontEntry[]>();
  /** What a font does not meet of the standard that the sign is to meet; undefined where there is none. */
  readonly faultsOf = input<((entry: FontEntry) => readonly string[]) | undefined>();
  readonly changed = output<string>();
  /** Whether fonts that do not meet the standard are left out. */
  protected readonly isOnly = signal(false);
  protected readonly faces = inject(FontFaces);
  protected readonly isOpen = signal(false);
  protected readonly name = computed(() => {
    const entry = this.catalogue().find(({ id }) => id === this.value());
    return entry ? `${entry.family} ${entry.style}` : this.value();
  });
  protected readonly sample = computed(() => this.words().trim().split('\n')[0].slice(0, 24) || 'Millrace');
  protected readonly groups = computed(() => {
    const characters = [...new Set(this.words().replace(/\s/gu, ''))];
    const faultsOf = this.faultsOf();
    const isOnly = faultsOf !== undefined && this.isOnly();
    const groups = new Map<string, FontChoice[]>();
    for (const entry of this.catalogue()) {
      const missing = characters
        .filter((character) => !covers(entry, character.codePointAt(0)!))
        .slice(0, 6)
        .join(' ');
      const faults = faultsOf?.(entry) ?? [];
      // The one that is chosen stays to be seen.
      if (isOnly && faults.length > 0 && entry.id !== this.value()) continue;
      groups.set(entry.class, [...(groups.get(entry.class) ?? []), { entry, missing, faults }]);
    }
    return [...groups].map(([name, choices]) => ({ name, choices }));
  });

  protected opened(isOpen: boolean): void {
    this.isOpen.set(isOpen);
    if (isOpen) this.faces.load(this.catalogue());
  }
}
