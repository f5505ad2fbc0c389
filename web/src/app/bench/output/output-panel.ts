import type { TaskKind } from '@plain-relief/api/states';
import type { Clearance, ProcessChoice, Task } from '@plain-relief/api';
import { NgbProgressbar } from '@ng-bootstrap/ng-bootstrap/progressbar';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { type SignOption } from '@plain-relief/core/sign';
import { LengthField } from '../../fields/length-field';
import { NumberField } from '../../fields/number-field';
import { LineField } from '../../fields/line-field';
import { LayoutChoice } from '../../proofs/layout-choice';
import { SessionService } from '../../session/session.service';
import { EVERYTHING, type SheetLayout, TEMPLATE_PAPERS, type TemplatePaper } from '@plain-relief/core/sheet';
import type { LengthUnit } from '@plain-relief/core/units';
import { isUnderWay, TasksService } from '../../tasks/tasks.service';
import { PrintChoiceForm } from './print-choice';
import { oneOf } from '../../platform/one-of';
import { attempt } from '../../platform/attempt';

interface Offer {
  readonly kind: TaskKind;
  readonly name: string;
  readonly words: string;
}

const OFFERS: Readonly<Record<'proof' | 'make', readonly Offer[]>> = {
  proof: [
    {
      kind: 'proof',
      name: 'Proof (PDF)',
      words:
        'A sheet of the sign as it stands, for yourself: plan to scale with its dimensions, sections, picture, back, options, the ticket and the notes.',
    },
  ],
  make: [
    {
      kind: 'package',
      name: 'Everything (ZIP)',
      words: 'In one file what a machine takes: STL, 3MF, SVG and DXF, with the proof and the sign document.',
    },
    { kind: 'stl', name: 'Solid (STL)', words: 'The closed solid, in millimetres.' },
    {
      kind: '3mf',
      name: 'Solid with finishes (3MF)',
      words: 'In millimetres, every piece closed, each surface with its finish.',
    },
    { kind: 'glb', name: 'Model (GLB)', words: 'In metres, with finishes, to be shown on a page or in a room.' },
    {
      kind: 'pieces',
      name: 'Pieces (ZIP of STL)',
      words: 'Every piece that hangs together, and every insert, as a solid of its own, named by part and material.',
    },
    { kind: 'picture', name: 'Picture (PNG)', words: 'The sign from the front in its finishes, lit from the upper left.' },
    {
      kind: 'template',
      name: 'Template (PDF)',
      words: 'At full size for mounting: outlines, holes, level lines; on sheets that are put together by their crosses.',
    },
    {
      kind: 'svg',
      name: 'Outlines (SVG)',
      words: 'Outlines by level at true size, one group a level; of two sides a file each.',
    },
    {
      kind: 'dxf',
      name: 'Outlines (DXF)',
      words: 'Outlines by level at true size, one layer a level; of two sides a file each.',
    },
    {
      kind: 'laser',
      name: 'Laser or knife (ZIP)',
      words: 'SVG and DXF with a layer a process: fill, score, cut inside, cut outside, with the kerf taken off what falls away.',
    },
    {
      kind: 'masks',
      name: 'Masks for paint (ZIP)',
      words: 'SVG and DXF of the openings of every finish that level places wear, with a border to weed by.',
    },
    {
      kind: 'inlays',
      name: 'Inlays (ZIP)',
      words: 'SVG and DXF of pockets and the plugs that fill them, of every window that is filled with another material.',
    },
    {
      kind: 'print',
      name: 'Print (ZIP of 3MF)',
      words: 'A 3MF for a printer, split where the bed asks with pegs between the pieces; with what would not print.',
    },
    {
      kind: 'pattern',
      name: 'Pattern for casting (ZIP)',
      words: 'The solid, larger by what the metal shrinks, as STL; with the sides that lack draft.',
    },
  ],
};

const KIND_WORDS: Readonly<Record<Task['kind'], string>> = {
  proof: 'Proof',
  sheet: 'Proof',
  'stamped sheet': 'Approved proof',
  package: 'Everything',
  stl: 'Solid STL',
  '3mf': 'Solid 3MF',
  glb: 'Model GLB',
  pieces: 'Pieces',
  picture: 'Picture',
  svg: 'Outlines SVG',
  dxf: 'Outlines DXF',
  laser: 'Laser files',
  masks: 'Masks',
  pattern: 'Pattern',
  inlays: 'Inlays',
  print: 'Print',
  template: 'Template',
  cuts: 'Plan of cuts',
};

/** Those that say how they are made. */
const PROCESSES: ReadonlySet<TaskKind> = new Set(['laser', 'masks', 'inlays', 'pattern', 'print']);

/** Those that show the sign, and are made whether it is approved or not. */
const SHOWN: ReadonlySet<TaskKind> = new Set(['proof', 'picture', 'glb']);

/** What leaves the shop: the proof, or the production files; asked for, followed and fetched. */
@Component({
  selector: 'pr-output-panel',
  imports: [LengthField, NgbProgressbar, NumberField, LayoutChoice, LineField, PrintChoiceForm, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './output-panel.html',
  styleUrls: ['../ticket/panel.scss', './output-panel.scss'],
})
export class OutputPanel {
  readonly what = input.required<'proof' | 'make'>();
  readonly revision = input.required<number>();
  /** Saves what is not saved yet, so that the file is of what is seen. */
  readonly beforeAsking = input.required<() => Promise<void>>();
  readonly jobId = input.required<string>();
  readonly unit = input<LengthUnit>('mm');
  /** The options of the sign, and the one that files are asked of. */
  readonly options = input<readonly SignOption[]>([]);
  readonly option = input<string>();
  /** Whether windows are filled with another material, which one body of all does not tell apart. */
  readonly hasInserts = input(false);
  readonly closed = output();
  private readonly service = inject(TasksService);
  /** Makers make what was approved, and take nothing on themselves. */
  protected readonly isLooking = inject(SessionService).isMaker;
  private readonly all = toSignal(this.service.tasks$, { initialValue: [] });
  protected readonly error = signal('');
  protected readonly offers = computed(() => OFFERS[this.what()]);
  protected readonly tasks = computed(() => {
    const kinds = new Set<Task['kind']>(this.offers().map(({ kind }) => kind));
    return this.all().filter(({ kind }) => kinds.has(kind));
  });
  protected readonly kindWords = KIND_WORDS;
  protected readonly isUnderWay = isUnderWay;

  /** Whether files for production may be made of the sign as it is shown. */
  protected readonly clearance = signal<Clearance | undefined>(undefined);
  protected readonly reason = signal('');
  /** That templates are printed on. */
  protected readonly paper = signal<TemplatePaper>('A4');
  protected readonly papers = TEMPLATE_PAPERS;
  protected readonly oneOf = oneOf;
  /** Of a laser's files, masks, inlays, patterns and prints. */
  protected readonly process = signal<Required<ProcessChoice>>({
    kerf: 0.2,
    leadIn: 2,
    overlap: 0.5,
    choke: 0.3,
    isMirrored: false,
    border: 10,
    shrinkage: 1.5,
    draft: 2,
    addsDraft: false,
    gap: 0.1,
    angle: 0,
    depth: 5,
    radius: 0,
    line: 0.4,
    layer: 0.2,
    bedWidth: 0,
    bedDepth: 0,
    bedHeight: 0,
    upright: [],
    level: [],
    peg: 4,
    pegDeep: 10,
    pegPlay: 0.2,
  });
  /** Of the sheet. */
  protected readonly layout = signal<SheetLayout>(EVERYTHING);

  constructor() {
    effect(() => {
      // Asked anew for every revision that is saved.
      this.revision();
      const option = this.option();
      if (this.what() === 'make') void this.attempt(async () => this.clearance.set(await this.service.clearance(option)));
    });
  }

  protected change(change: Partial<ProcessChoice>): void {
    this.process.update((process) => ({ ...process, ...change }));
  }

  protected optionName(id: string | null | undefined): string {
    return this.options().find((option) => option.id === id)?.name ?? '';
  }

  protected percent(task: Task): number {
    return Math.round(task.progress * 100);
  }

  protected time(task: Task): string {
    return new Date(task.askedAt).toLocaleTimeString('en-GB', { timeStyle: 'short' });
  }

  protected async ask(kind: TaskKind): Promise<void> {
    await this.attempt(async () => {
      await this.beforeAsking()();
      const reason = this.reason().trim();
      if (!SHOWN.has(kind) && this.clearance()?.isCleared === false && reason === '')
        throw new Error('This is not approved: say above why it is made all the same, or send a proof first.');
      await this.service.ask({
        kind,
        option: this.option(),
        override: reason || undefined,
        ...(PROCESSES.has(kind) && { process: this.process() }),
        ...(kind === 'template' && { paper: this.paper() }),
        ...(kind === 'proof' && { layout: this.layout() }),
      });
    });
  }

  protected async cancel(id: string): Promise<void> {
    await this.attempt(() => this.service.cancel(id));
  }

  private async attempt(act: () => Promise<unknown>): Promise<void> {
    await attempt(this.error, act);
  }
}
