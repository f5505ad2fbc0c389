import bwip from 'bwip-js/node';
import { type CutChoice, type Workpiece } from '@plain-relief/core/cutting';
import { troubleOf } from '@plain-relief/core/dry-run';
import { FAINT, INK, PAPER } from '@plain-relief/core/drawing';
import { type PlanOutcome } from '@plain-relief/core/making';
import { bounds } from '@plain-relief/core/geometry';
import { type Evaluation } from '@plain-relief/core/relief';
import { type FontBook } from '@plain-relief/core/type';
import { formatLength } from '@plain-relief/core/units';
import { POINTS_PER_MM as PT, startPage } from '../production/pdf-drawing.js';
import { breakLines, drawLine, PageFonts } from '../production/rich-text.js';
import { FACES, sheetPdf } from '../production/sheet-pdf.js';

/** Whose sign it is. */
export interface SheetSubject {
  readonly shop: string;
  readonly customer: string;
  readonly job: { readonly number: string; readonly title: string };
  readonly revision: number;
  readonly date: Date;
  /** How it lies, where it is a block. */
  readonly laying?: string;
}

/** What a setup sheet shows. Pictures are PNG files. */
export interface SetupSubject {
  readonly evaluation: Evaluation;
  /** The sign as it lies on the machine. */
  readonly work: Workpiece;
  readonly choice: CutChoice;
  readonly outcome: PlanOutcome;
  readonly subject: SheetSubject;
  /** What is wanted, and what the programs leave. */
  readonly wanted: Uint8Array;
  readonly made: Uint8Array;
}

/** A4, upright; all in mm. */
const PAGE = { width: 210, height: 297, margin: 14 };
const INNER = PAGE.width - 2 * PAGE.margin;
const RED = '#b23a2e';
const GREEN = '#2f6f60';

/** What the person at the machine needs on paper: stock, zero, clamps, tools in their order, programs with their hash, pictures. */
export async function setupSheet(setup: SetupSubject, book: FontBook, fontsDir: string): Promise<Uint8Array> {
  const { subject, evaluation } = setup;
  const { pdf, ended } = await sheetPdf(`Setup: ${evaluation.sign.title}`, subject.shop, subject.date, fontsDir);
  const page = new SetupPages(pdf, new PageFonts(book, [...FACES]), setup);
  page.stockAndTools();
  page.pictures();
  return ended();
}

class SetupPages {
  private y = 0;

  constructor(
    private readonly pdf: PDFKit.PDFDocument,
    private readonly fonts: PageFonts,
    private readonly setup: SetupSubject,
  ) {}

  stockAndTools(): void {
    const { choice, outcome, evaluation } = this.setup;
    this.start('Setup sheet');
    const top = this.y;
    const drawn = this.stockDrawing(PAGE.margin, top, 84);
    const { box, top: face, bottom } = outcome.stock;
    const length = (mm: number): string => formatLength(mm, evaluation.sign.unit);
    const x = PAGE.margin + 92;
    const isFaceZero = choice.zero.height === 'face of the stock';
    const sized = `${length(box.maxX - box.minX)} × ${length(box.maxY - box.minY)} × ${length(face - bottom)}`;
    const rows: [string, string][] = [
      ['Stock', `${sized}, ${choice.material.name}`],
      ['Machine', choice.machine.name],
      ['Zero', `${choice.zero.at} of the stock, z on the ${isFaceZero ? 'face of the stock' : 'bed'}`],
      ['Side up', evaluation.side === 'back' ? 'the back' : 'the front'],
      ...(choice.turning ? [['Turned', turningWords(this.setup, length)] satisfies [string, string]] : []),
      ['Held by', holdingWords(choice, length)],
      ['Clamps', choice.clamps.length === 0 ? 'none on the plan' : choice.clamps.map((c) => `${length(c.width)} × ${length(c.height)}, ${length(c.above)} high`).join('; ')], // prettier-ignore
      ['Free height', `${length(outcome.safe - face)} over the face`],
      ['Time', `${minutesWords(outcome.minutes)} with changes of tools`],
      ['Dry run', verdictOf(outcome)],
    ];
    this.y = top;
    for (const [name, words] of rows) this.row(name, words, x, PAGE.width - PAGE.margin - x, name === 'Dry run' ? verdictColour(outcome) : INK); // prettier-ignore
    this.y = Math.max(this.y, top + drawn) + 6;
    this.programs();
    this.cuts();
  }

  /** Programs in their order, each with its tool. */
  private programs(): void {
    const { outcome, choice } = this.setup;
    this.heading('Programs, in this order');
    const columns = [0, 46, 104, 122, 140, 160];
    this.cells(columns, ['File', 'Tool', 'Stands out', 'Speed', 'Feed', 'Time'], 7, FAINT);
    outcome.files.forEach((file, i) => {
      this.room(11);
      const cut = outcome.cuts.find((each) => each.file === i);
      const feed = cut ? `${cut.feeds.feed} mm/min` : '';
      const speed = cut ? `${cut.feeds.speed}/min` : '';
      this.cells(columns, [file.name, `T${file.tool.number} ${file.toolName}`, `${file.standOut} mm`, speed, feed, minutesWords(file.minutes)], 8.5, INK); // prettier-ignore
      this.text(`SHA-256 ${file.sha256}`, PAGE.margin, INNER, 6, FAINT);
      this.y += 1;
    });
    const by = choice.machine.hasChanger ? 'The machine changes tools by itself.' : 'Tools are changed by hand: a program each.';
    this.text(by, PAGE.margin, INNER, 8, INK);
    this.y += 3;
  }

  private cuts(): void {
    const { outcome } = this.setup;
    this.heading('Cuts');
    const columns = [0, 30, 84, 122, 150];
    this.cells(columns, ['What', 'With', 'From, to', 'A pass', 'Time'], 7, FAINT);
    const z = (mm: number): string => (mm - outcome.zero.z).toFixed(2).replace('-', '−');
    for (const cut of outcome.cuts) {
      this.room(6);
      this.cells(columns, [cut.purpose, cut.toolName, `${z(cut.from)} to ${z(cut.to)} mm`, `${cut.depthPerPass.toFixed(2)} mm`, minutesWords(cut.minutes)], 8.5, INK); // prettier-ignore
    }
    this.y += 3;
    const places = new Map<string, number>();
    for (const { reason, areaMm2 } of outcome.left) places.set(reason, (places.get(reason) ?? 0) + areaMm2);
    if (places.size > 0) this.heading('Left standing');
    for (const [reason, mm2] of places) {
      this.room(10);
      this.text(`${mm2.toFixed(1)} mm²: ${reason}`, PAGE.margin, INNER, 8.5, INK);
    }
  }

  pictures(): void {
    const { wanted, made, outcome, work } = this.setup;
    this.start('What is wanted, and what the programs leave');
    for (const [words, picture, box] of [
      ['Wanted: the sign as it was drawn.', wanted, bounds([work.blank])!],
      [
        'Left by the programs in the dry run: what stands too high is red, what is cut too deep is violet.',
        made,
        outcome.stock.box,
      ],
    ] as const) {
      this.text(words, PAGE.margin, INNER, 9, INK);
      const share = (box.maxY - box.minY) / (box.maxX - box.minX);
      const width = Math.min(INNER, 108 / share);
      this.pdf.image(Buffer.from(picture), PAGE.margin * PT, this.y * PT, { width: width * PT, height: width * share * PT });
      this.y += width * share + 8;
    }
    const { currency, total, lines } = outcome.cost;
    this.heading(`Cost of one: ${currency} ${total.toFixed(2)}`);
    for (const { what, amount, from } of lines)
      this.text(`${what}: ${amount.toFixed(2)} (${from})`, PAGE.margin, INNER, 8.5, INK);
  }

  /** The stock from above with its zero and clamps; gives its height. */
  private stockDrawing(x: number, y: number, most: number): number {
    const { pdf } = this;
    const { choice, outcome, work } = this.setup;
    const { box } = outcome.stock;
    const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
    const scale = Math.min(most / width, 70 / height);
    const at = (mmX: number, mmY: number): [number, number] => [
      (x + (mmX - box.minX) * scale) * PT,
      (y + (box.maxY - mmY) * scale) * PT,
    ];
    pdf
      .rect(x * PT, y * PT, width * scale * PT, height * scale * PT)
      .lineWidth(0.5)
      .fillAndStroke(PAPER, INK);
    for (let i = 0; i < work.blank.length; i += 2) {
      const place = at(work.blank[i], work.blank[i + 1]);
      if (i === 0) pdf.moveTo(...place);
      else pdf.lineTo(...place);
    }
    pdf.closePath().lineWidth(0.8).stroke(GREEN);
    this.axisDrawing(at, scale);
    for (const clamp of choice.clamps) {
      const [left, top] = at(clamp.x, clamp.y + clamp.height);
      pdf.rect(left, top, clamp.width * scale * PT, clamp.height * scale * PT).fillAndStroke('#d9d2c2', INK);
    }
    const [zx, zy] = at(outcome.zero.x, outcome.zero.y);
    pdf.circle(zx, zy, 5).lineWidth(1).stroke(RED);
    pdf
      .moveTo(zx - 9, zy)
      .lineTo(zx + 9, zy)
      .moveTo(zx, zy - 9)
      .lineTo(zx, zy + 9)
      .stroke(RED);
    return height * scale;
  }

  /** The line that the work is turned about, and the pins on it. */
  private axisDrawing(at: (x: number, y: number) => [number, number], scale: number): void {
    const { pdf } = this;
    const { choice, outcome } = this.setup;
    if (!choice.turning) return;
    const { minX, minY, maxX, maxY } = outcome.stock.box;
    const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
    const [from, to] = choice.turning.axis === 'upright' ? [at(x, minY), at(x, maxY)] : [at(minX, y), at(maxX, y)];
    pdf.moveTo(...from).lineTo(...to).lineWidth(0.5).dash(6, { space: 3 }).stroke(FAINT).undash(); // prettier-ignore
    for (const pin of outcome.pins ?? []) {
      const [px, py] = at(pin.x, pin.y);
      pdf.circle(px, py, Math.max(1.5, (pin.diameter / 2) * scale * PT)).lineWidth(0.8).fillAndStroke(PAPER, INK); // prettier-ignore
    }
  }

  private start(title: string): void {
    const { subject, evaluation } = this.setup;
    startPage(this.pdf, PAGE.width, PAGE.height);
    this.y = PAGE.margin;
    this.text(evaluation.sign.title, PAGE.margin, INNER - 62, 15, INK, 'strong');
    const { job } = subject;
    const said = (...words: readonly string[]): string => words.filter((each) => each.trim() !== '').join(' · ');
    this.text(said(title, `${job.number} ${job.title}`, subject.customer), PAGE.margin, INNER - 62, 9, INK);
    const day = subject.date.toISOString().slice(0, 16).replace('T', ' ');
    const of = subject.revision > 0 ? `revision ${subject.revision}` : '';
    this.text(said(subject.shop, of, `planned ${day} UTC`), PAGE.margin, INNER - 62, 9, FAINT);
    if (subject.laying) this.text(subject.laying, PAGE.margin, INNER - 62, 9, INK, 'strong');
    if (job.number !== '') this.barcode(job.number, PAGE.width - PAGE.margin - 54, PAGE.margin, 54);
    this.y = Math.max(this.y, PAGE.margin + 16) + 3;
  }

  /** Code 128 (ISO/IEC 15417) of the job's number, no wider than said. */
  private barcode(text: string, x: number, y: number, width: number): void {
    const { pdf } = this;
    const [symbol] = bwip.raw({ bcid: 'code128', text }) as readonly { readonly sbs?: readonly number[] }[];
    const bars = symbol?.sbs ?? [];
    const unit = width / bars.reduce((sum, each) => sum + each, 0);
    let at = x;
    bars.forEach((each, i) => {
      if (i % 2 === 0) pdf.rect(at * PT, y * PT, each * unit * PT, 11 * PT).fill('#000000');
      at += each * unit;
    });
    const kept = this.y;
    this.y = y + 11;
    this.text(text, x, width, 8, INK);
    this.y = kept;
  }

  private heading(words: string): void {
    this.room(16);
    this.text(words, PAGE.margin, INNER, 11, INK, 'strong');
    this.y += 1;
  }

  /** A name with what is said of it beside it. */
  private row(name: string, words: string, x: number, width: number, colour: string): void {
    const kept = this.y;
    this.text(name, x, 20, 8.5, FAINT);
    this.y = kept;
    this.text(words, x + 20, width - 20, 8.5, colour);
    this.y += 0.6;
  }

  private cells(columns: readonly number[], words: readonly string[], size: number, colour: string): void {
    const kept = this.y;
    let lowest = kept;
    words.forEach((each, i) => {
      this.y = kept;
      this.text(each, PAGE.margin + columns[i], (columns[i + 1] ?? INNER) - columns[i] - 2, size, colour);
      lowest = Math.max(lowest, this.y);
    });
    this.y = lowest;
  }

  /** Goes on to another page where so many mm are not left. */
  private room(mm: number): void {
    if (this.y + mm > PAGE.height - PAGE.margin) this.start('Setup sheet, continued');
  }

  private text(text: string, x: number, width: number, size: number, colour: string, font: 'text' | 'strong' = 'text'): void {
    const paragraph = { text, font, size, colour, before: 0 };
    for (const line of breakLines(this.pdf, this.fonts, paragraph, width * PT)) {
      this.y += (size * 1.25) / PT;
      drawLine(this.pdf, line, x * PT, this.y * PT, paragraph);
    }
    this.y += 0.4;
  }
}

/** Which side comes first, how the work is turned for the other, and what holds it to its place. */
function turningWords(
  { choice: { turning, cutsOut }, evaluation: { side } }: SetupSubject,
  length: (mm: number) => string,
): string {
  const { axis, pins } = turning!;
  const other = side === 'front' ? 'back' : 'front';
  const how = `about its ${axis} middle line (dashed): ${axis === 'upright' ? 'left comes to the right' : 'top comes to the bottom'}`;
  const order = cutsOut ? `cut the ${other} first, then turn it ${how}` : `cut this side first, then turn it ${how}`;
  if (!pins) return `${order}, and set the zero anew`;
  const held = `two pins of ${length(pins.diameter)}, ${length(pins.apart)} off the sign on that line, ${length(pins.deep)} into the bed`;
  const made = cutsOut ? 'in the holes of the first side' : 'the first program makes their holes';
  return `${order}; ${held}: ${made}. Keep the zero of the first side.`;
}

function holdingWords({ holding, cutsOut }: CutChoice, length: (mm: number) => string): string {
  if (!cutsOut) return 'the stock: nothing is cut out';
  if (holding.kind === 'nothing') return 'nothing: what is cut out is loose at the end';
  if (holding.kind === 'skin') return `a skin of ${length(holding.thickness)}`;
  return `tabs ${length(holding.width)} wide and ${length(holding.height)} high, one every ${length(holding.every)}`;
}

const verdictOf = ({ run, cell }: PlanOutcome): string => {
  const found = troubleOf(run);
  return found ? `NOT PROVEN: ${found}` : `proven at every ${cell} mm: nothing is cut too deep, nothing touches`;
};
const verdictColour = ({ run }: PlanOutcome): string => (troubleOf(run) ? RED : GREEN);

/** “1 h 05 min”, “12.4 min”. */
function minutesWords(minutes: number): string {
  if (minutes < 60) return `${minutes.toFixed(1)} min`;
  const whole = Math.round(minutes);
  return `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, '0')} min`;
}
