import { FAINT, INK } from '@plain-relief/core/drawing';
import { CHECKS, type ClauseResult, inspect, judged, limitsOf, meets, standardOf, told } from '@plain-relief/core/inspection';
import { type Evaluation, Evaluator } from '@plain-relief/core/relief';
import { type FontBook } from '@plain-relief/core/type';
import { POINTS_PER_MM } from './pdf-drawing.js';
import type { Paragraph } from './rich-text.js';
import { ordinary, type Sheet, stepOf, strong } from './sheet.js';

const VERDICTS = { passes: 'passes', fails: 'fails', look: 'to be judged', unknown: 'not told' } as const;
/** Columns of the certificate, as shares of the page. */
const COLUMNS = [0.1, 0.14, 0.32, 0.2, 0.15, 0.09] as const;
const HEADINGS = ['Clause', '', 'Asks', 'Measured', 'Allowed', ''] as const;
/** mm between columns and rows. */
const BETWEEN = 3;
const ROW_GAP = 1.6;

/**
 * The certificate of a sign: the standard that it is to meet, clause by clause, each measured on the relief that the sheet shows. Nothing
 * of a sign that is to meet none.
 */
export function standardPage(sheet: Sheet, evaluation: Evaluation, book: FontBook): void {
  const standard = standardOf(evaluation.sign.checks?.standard);
  if (!standard) return;
  const results = judged(standard, evaluation, new Evaluator(book));
  const ended = () => sheet.end(evaluation.sign.title, sheet.sizeOf(evaluation), 'Not to scale.');
  const failing = results.filter(({ verdict }) => verdict === 'fails').length;
  const verdict = meets(results) ? 'nothing of it fails' : failing === 1 ? 'one clause fails' : `${failing} clauses fail`;
  const table = new Table(sheet, `${standard.name}: ${verdict}`, ended);
  for (const result of results) table.row(cellsOf(result));
  table.close(`Measured on the relief of the sign as it is shown here. ${standard.source}.`);
}

const cellsOf = ({ clause: { number, title, asks, limit }, measured, verdict }: ClauseResult): readonly Paragraph[] =>
  [number, title, asks, measured, limit, VERDICTS[verdict]].map((text, i) =>
    i === 5 && verdict === 'fails' ? strong(text, 0) : { ...ordinary(text, 0), colour: verdict === 'unknown' ? FAINT : INK },
  );

/** Rows of paragraphs beside each other, on as many pages as they take. */
class Table {
  private y = 0;

  constructor(
    private readonly sheet: Sheet,
    private readonly title: string,
    private readonly ended: () => void,
  ) {
    this.begin();
  }

  row(cells: readonly Paragraph[]): void {
    const { body } = this.sheet;
    const lines = cells.map((cell, i) => this.sheet.lines(cell, COLUMNS[i] * body.width - BETWEEN));
    const height = Math.max(...lines.map((all, i) => all.length * stepOf(cells[i]))) + ROW_GAP;
    if (this.y + height > body.y + body.height) {
      this.ended();
      this.begin();
    }
    let x = body.x;
    cells.forEach((cell, i) => {
      lines[i].forEach((line, k) => this.sheet.line(line, x, this.y + (k + 1) * stepOf(cell), cell));
      x += COLUMNS[i] * body.width;
    });
    this.y += height;
    this.rule();
  }

  close(foot: string): void {
    const { body } = this.sheet;
    this.sheet.write([{ ...ordinary(foot, 4), size: 7 }], { ...body, y: this.y, height: body.y + body.height - this.y + 8 });
    this.ended();
  }

  private begin(): void {
    const { body } = this.sheet;
    this.sheet.start();
    this.sheet.heading(this.title, body.x, body.y + 3);
    this.y = body.y + 6;
    this.row(HEADINGS.map((text) => strong(text, 0)));
  }

  private rule(): void {
    const { pdf, body } = this.sheet;
    const pt = POINTS_PER_MM;
    const y = (this.y - ROW_GAP / 2) * pt + 1;
    pdf.undash().lineWidth(0.3).strokeColor(FAINT);
    pdf
      .moveTo(body.x * pt, y)
      .lineTo((body.x + body.width) * pt, y)
      .stroke();
  }
}

/** What was measured beyond limits and what is switched off, for the shop's own copy. */
export function checkWords(evaluation: Evaluation): Paragraph[] {
  const { checks, blank } = evaluation.sign;
  const known = limitsOf({ materials: [], tools: [] }, blank.material);
  const limits = checks?.distance === undefined ? known : { ...known, distance: checks.distance };
  const { findings, off } = told(evaluation, inspect(evaluation, limits));
  const switchedOff = off.map(({ finding, reason }) => `Not told of: ${finding.text} Reason: ${reason}.`);
  const silent = (checks?.off ?? []).filter(({ check }) => !off.some(({ finding }) => finding.check === check));
  const said = [
    ...findings.map(({ text, check }) => `${text} (${CHECKS[check].group})`),
    ...switchedOff,
    ...silent.map(({ check, reason }) => `Switched off: ${check}. Reason: ${reason}.`),
  ];
  return said.length === 0 ? [] : [strong('Checks, for the shop'), ...said.map((text) => ordinary(text))];
}
