import { ChangeDetectionStrategy, Component, computed, input, model, output } from '@angular/core';
import type { NewMaking, RunMaking } from '@plain-relief/api';
import { PLATE_FILES, type PlateFile } from '@plain-relief/core/runs';
import { followsPrograms, type Shop } from '@plain-relief/core/shop';
import { LineField } from '../fields/line-field';
import { RunMakings, type Turn } from './run-makings';

/** Which files are made of a run. */
export interface FilesChoice {
  readonly kinds: ReadonlySet<PlateFile>;
  /** Whether workers draw a contact sheet as well. */
  readonly hasContact: boolean;
  /** The machine that programs are for; none where it is empty. */
  readonly machine: string;
  /** Tools by their ids; those that the plates of a sheet ask for where nobody has chosen. */
  readonly tools?: readonly string[];
  /** Why they are made all the same, where plates are not approved. */
  readonly reason: string;
}

export const FILES_AT_FIRST: FilesChoice = { kinds: new Set(['svg']), hasContact: false, machine: '', reason: '' };

/** What programs are made with; undefined where none are wanted. */
export const meansOfChoice = ({ machine, tools }: FilesChoice): NewMaking['programs'] =>
  machine === '' ? undefined : { machine, ...(tools && { tools: [...tools] }) };

/** A file that was made in this page. */
export interface MadeFile {
  readonly url: string;
  readonly name: string;
  readonly told: string;
}

/** Solids of more plates than these are more than a browser holds: workers and the command line write any number. */
export const MOST_SOLIDS = 100;
const FILE_NAMES: Readonly<Record<PlateFile, string>> = {
  svg: 'Outlines (SVG)',
  dxf: 'Outlines (DXF)',
  stl: `Solids (STL), of ${MOST_SOLIDS} plates at most`,
};

/** What files of a run are to be, who makes them, and where they can be had. */
@Component({
  selector: 'pr-run-files',
  imports: [LineField, RunMakings],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run-files.html',
  styleUrl: './run-files.scss',
})
export class RunFiles {
  readonly shop = input<Shop>();
  /** Rows that are marked, and whether files are of them alone. */
  readonly marked = input(0);
  readonly isMarkedOnly = input(false);
  /** Whether a customer approved the plates as they are; none where no proof of them was sent. */
  readonly approval = input.required<'approved' | 'open' | 'none'>();
  readonly isLooking = input(false);
  readonly isMaking = input(false);
  readonly isAsking = input(false);
  readonly makings = input<readonly RunMaking[]>([]);
  readonly file = input<MadeFile>();
  readonly choice = model.required<FilesChoice>();
  readonly markedOnly = output<boolean>();
  /** That files are wanted from this page, or from the workers. */
  readonly made = output<void>();
  readonly asked = output<void>();
  readonly turned = output<Turn>();
  protected readonly kinds = PLATE_FILES;
  protected readonly names = FILE_NAMES;
  protected readonly machines = computed(() => (this.shop()?.machines ?? []).filter(followsPrograms));
  protected readonly tools = computed(() => {
    const taken = new Set(this.choice().tools);
    return (this.shop()?.tools ?? []).map((tool) => ({ tool, isTaken: taken.has(tool.id), isLeft: tool.left > 0 }));
  });

  protected toggle(kind: PlateFile): void {
    const kinds = new Set(this.choice().kinds);
    if (!kinds.delete(kind)) kinds.add(kind);
    this.change({ kinds });
  }

  /** Chooses tools, of all that are left at first, or leaves it to the plates. */
  protected chooseTools(isChosen: boolean): void {
    const tools = this.tools().flatMap(({ tool, isLeft }) => (isLeft ? [tool.id] : []));
    this.change({ tools: isChosen ? tools : undefined });
  }

  /** One tool stays at least. */
  protected takeTool(id: string): void {
    const { tools = [] } = this.choice();
    const next = tools.includes(id) ? tools.filter((each) => each !== id) : [...tools, id];
    this.change({ tools: next.length > 0 ? next : tools });
  }

  protected change(change: Partial<FilesChoice>): void {
    this.choice.update((choice) => ({ ...choice, ...change }));
  }
}
