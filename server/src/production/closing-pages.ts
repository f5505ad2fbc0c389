import { INK } from '@plain-relief/core/drawing';
import { extentOfShape, type Finish, type Sign, spellingOf, weightInAll, weightWords } from '@plain-relief/core/sign';
import { figuresOf, solidOf } from '@plain-relief/core/solid';
import { formatLength } from '@plain-relief/core/units';
import { POINTS_PER_MM } from './pdf-drawing.js';
import { PICTURE_SHARE, putPicture } from './proof-pages.js';
import { breakLines, drawLine, type PageFonts, type Paragraph } from './rich-text.js';
import { type Frozen, GAP, heading, MARGIN, PAGE, type ProofSubject, startPage, TITLE_HEIGHT, titleCells } from './sheet.js';
import type { SignViews } from './sign-views.js';

/** From so many signs on a page before them lists them. */
export const INDEX_FROM = 4;

const BODY = { width: PAGE.width - 2 * MARGIN, height: PAGE.height - 2 * MARGIN - TITLE_HEIGHT - GAP };
const COLUMNS = 3;
const WIDTH = (BODY.width - (COLUMNS - 1) * GAP) / COLUMNS;
/** Type of the spelling list: a size at which every letter is read. */
const READING = 11;

const strong = (text: string, before = 9): Paragraph => ({ text, font: 'strong', size: 10, colour: INK, before });
const ordinary = (text: string): Paragraph => ({ text, font: 'text', size: 8.5, colour: INK, before: 2.5 });
const reading = (text: string): Paragraph => ({ text, font: 'text', size: READING, colour: INK, before: 3 });

const sizeOf = ({ blank, unit }: Sign): string => {
  const { width, height } = extentOfShape(blank.outline);
  return [width, height, blank.thickness].map((mm) => formatLength(mm, unit)).join(' × ');
};

/** The signs of the proof, each with a picture, its name and its size; gives the page's number. */
export function indexPage(pdf: PDFKit.PDFDocument, fonts: PageFonts, signs: readonly SignViews[], subject: ProofSubject): number {
  const columns = Math.ceil(Math.sqrt(signs.length * 1.4));
  const rows = Math.ceil(signs.length / columns);
  const width = (BODY.width - (columns - 1) * GAP) / columns;
  const height = (BODY.height - 8) / rows;
  const picture = Math.min(width, (height - 14) / PICTURE_SHARE);
  startPage(pdf);
  heading(pdf, `${signs.length} signs`, MARGIN, MARGIN + 3);
  signs.forEach(({ front }, i) => {
    const x = MARGIN + (i % columns) * (width + GAP);
    const y = MARGIN + 7 + Math.floor(i / columns) * height;
    putPicture(pdf, front, x, y, picture);
    const below = { x, y: y + picture * PICTURE_SHARE, width };
    const said = [{ ...strong(`${i + 1}  ${front.sign.title}`, 2) }, ordinary(sizeOf(front.sign))];
    write(pdf, fonts, said, below);
  });
  titleCells(pdf, subject, `${signs.length} signs`, '', 1, 'Not to scale.');
  return 1;
}

/** Paragraphs below each other; gives where they end, in mm. */
function write(
  pdf: PDFKit.PDFDocument,
  fonts: PageFonts,
  paragraphs: readonly Paragraph[],
  at: { x: number; y: number; width: number },
): number {
  let y = at.y * POINTS_PER_MM;
  for (const paragraph of paragraphs) {
    y += paragraph.before;
    for (const line of breakLines(pdf, fonts, paragraph, at.width * POINTS_PER_MM)) {
      y += paragraph.size * 1.25;
      drawLine(pdf, line, at.x * POINTS_PER_MM, y, paragraph);
    }
  }
  return y / POINTS_PER_MM;
}

const GLOSS: Readonly<Record<Finish['gloss'], string>> = { matt: 'matt', satin: 'satin', gloss: 'glossy', metal: 'metallic' };

/** What the customer signs for: every word, the finishes with their swatches, what the shop says, and the place for the answer. */
export function closingPages(
  pdf: PDFKit.PDFDocument,
  fonts: PageFonts,
  signs: readonly SignViews[],
  subject: ProofSubject,
  frozen: Frozen,
  before: number,
): void {
  let page = before;
  const titled = () =>
    titleCells(pdf, subject, signs.map(({ front }) => front.sign.title).join(', '), '', ++page, 'Not to scale.');
  startPage(pdf);
  const top = MARGIN + 3;
  const bottom = MARGIN + BODY.height;
  let column = 0;
  let y = top;
  const next = () => {
    column++;
    y = top;
    if (column < COLUMNS) return;
    titled();
    startPage(pdf);
    column = 0;
  };
  const put = (paragraph: Paragraph): void => {
    for (const [i, line] of breakLines(pdf, fonts, paragraph, WIDTH * POINTS_PER_MM).entries()) {
      const step = (paragraph.size * 1.25 + (i === 0 ? paragraph.before : 0)) / POINTS_PER_MM;
      if (y + step > bottom) next();
      y += step;
      drawLine(pdf, line, (MARGIN + column * (WIDTH + GAP)) * POINTS_PER_MM, y * POINTS_PER_MM, paragraph);
    }
  };
  const room = (height: number): void => {
    if (y + height > bottom) next();
  };

  put(strong('Spelling: please read every word', 0));
  for (const { front } of signs) {
    put(strong(front.sign.title));
    for (const line of spellingOf(front.sign)) put(reading(line));
  }
  room(30);
  put(strong('Finishes and material', 14));
  for (const { front } of signs) {
    const { sign } = front;
    const figures = figuresOf(front, solidOf(front));
    const kilograms = weightInAll(sign.blank.material, figures);
    const weight = kilograms === undefined ? '' : `, about ${weightWords(kilograms, sign.unit)} each`;
    put(ordinary(`${sign.title}: ${sign.blank.material || 'material not named'}, ${sizeOf(sign)}${weight}.`));
    for (const { finish } of figures.areas) {
      room(8);
      y += 2;
      const x = MARGIN + column * (WIDTH + GAP);
      pdf.rect(x * POINTS_PER_MM, y * POINTS_PER_MM, 9 * POINTS_PER_MM, 5 * POINTS_PER_MM);
      pdf.undash().lineWidth(0.5).fillAndStroke(finish.colour, INK);
      write(pdf, fonts, [{ ...ordinary(`${finish.name}, ${GLOSS[finish.gloss]}`), before: 0 }], {
        x: x + 11,
        y: y + 0.6,
        width: WIDTH - 11,
      });
      y += 5;
    }
  }
  put(ordinary(`Quantity: ${frozen.quantity}.`));
  if (frozen.message) {
    put(strong('From the shop', 14));
    put(ordinary(frozen.message));
  }
  room(62);
  put(strong('Approval', 14));
  const { approval } = frozen;
  if (approval) {
    put(
      ordinary(
        `Proof ${subject.revision} was approved by ${approval.by} on ${approval.at.toISOString().slice(0, 16).replace('T', ' ')} UTC; spelling, sizes and colours were ticked.`,
      ),
    );
    for (const choice of approval.choices) put(ordinary(choice));
  } else {
    put(
      ordinary(
        'We make what this proof shows. With your approval you confirm the spelling of every word, all sizes, and all colours.',
      ),
    );
    for (const name of ['Name', 'Date', 'Signature']) {
      y += 11;
      const x = MARGIN + column * (WIDTH + GAP);
      pdf.undash().lineWidth(0.5).strokeColor(INK);
      pdf
        .moveTo((x + 20) * POINTS_PER_MM, y * POINTS_PER_MM)
        .lineTo((x + WIDTH) * POINTS_PER_MM, y * POINTS_PER_MM)
        .stroke();
      write(pdf, fonts, [{ ...ordinary(name), before: 0 }], { x, y: y - 4, width: 20 });
    }
  }
  put({ ...ordinary(`Contents ${frozen.digest.slice(0, 16)} … ${frozen.digest.slice(-8)} (SHA-256).`), before: 10, size: 7 });
  titled();
}
