import { INK } from '@plain-relief/core/drawing';
import { densityIn } from '@plain-relief/core/shop';
import { type FontEntry } from '@plain-relief/core/type';
import { spellingOf, weightInAll, weightWords } from '@plain-relief/core/sign';
import { Columns, columnsOf } from './columns.js';
import { POINTS_PER_MM } from './pdf-drawing.js';
import type { Paragraph } from './rich-text.js';
import { type Frozen, GAP, ordinary, PICTURE_SHARE, type Sheet, strong } from './sheet.js';
import { figuresOfView, type SignViews } from './sign-views.js';

/** From so many signs on a page before them lists them. */
export const INDEX_FROM = 4;
/** Type of the spelling list: a size at which every letter is read. */
const READING = 11;

const title = (text: string, before = 14): Paragraph => ({ ...strong(text, before), size: 10 });
const reading = (text: string): Paragraph => ({ text, font: 'text', size: READING, colour: INK, before: 3, direction: 'auto' });

/** The signs of the proof, each with a picture, its name and its size. */
export function indexPage(sheet: Sheet, signs: readonly SignViews[]): void {
  const { body } = sheet;
  const columns = Math.ceil(Math.sqrt((signs.length * body.width) / body.height));
  const rows = Math.ceil(signs.length / columns);
  const width = (body.width - (columns - 1) * GAP) / columns;
  const height = (body.height - 8) / rows;
  const picture = Math.min(width, (height - 14) / PICTURE_SHARE);
  sheet.start();
  sheet.heading(`${signs.length} signs`, body.x, body.y + 3);
  signs.forEach(({ front }, i) => {
    const x = body.x + (i % columns) * (width + GAP);
    const y = body.y + 7 + Math.floor(i / columns) * height;
    sheet.picture(front, x, y, picture);
    const said = [title(`${i + 1}  ${front.sign.title}`, 2), ordinary(sheet.sizeOf(front))];
    sheet.write(said, { x, y: y + picture * PICTURE_SHARE, width, height: 18 });
  });
  sheet.end(`${signs.length} signs`, '', 'Not to scale.');
}

/** What the customer signs for: every word, the material, what was ordered, what the shop says, and the answer. */
export function closingPages(sheet: Sheet, signs: readonly SignViews[], frozen: Frozen, catalogue: readonly FontEntry[]): void {
  const titles = signs.map(({ front }) => front.sign.title).join(', ');
  const ended = () => sheet.end(titles, '', 'Not to scale.');
  sheet.start();
  const rooms = columnsOf(sheet, GAP);
  const words = new Columns(sheet, rooms, rooms, ended);
  if (sheet.shows('spelling')) {
    words.put(title('Spelling: please read every word', 0));
    for (const { front } of signs) {
      words.put(title(front.sign.title, 9));
      for (const line of spellingOf(front.sign, catalogue)) words.put(reading(line));
    }
  }
  words.fresh();
  if (sheet.shows('finishes')) materials(sheet, words, signs);
  if (sheet.shows('brief')) brief(sheet, words, frozen);
  if (sheet.shows('revisions') && frozen.revisions.length > 0) {
    words.room(16);
    words.put(title('Revisions'));
    for (const { letter, date, state, changes } of frozen.revisions) {
      words.put(ordinary(`${letter}, ${date}${state ? `, ${state}` : ''}`, 5));
      for (const change of changes) words.put({ ...ordinary(change.replaceAll('→', 'to'), 1), size: 7.5 });
    }
  }
  words.fresh();
  if (frozen.message) {
    words.put(title('From the shop'));
    words.put({ ...ordinary(frozen.message), direction: 'auto' });
  }
  if (sheet.shows('terms') && sheet.subject.shop.terms) {
    words.room(16);
    words.put(title('Terms'));
    for (const line of sheet.subject.shop.terms.split('\n')) if (line.trim()) words.put({ ...ordinary(line.trim()), size: 7.5 });
  }
  approval(sheet, words, frozen);
  ended();
}

function materials(sheet: Sheet, words: Columns, signs: readonly SignViews[]): void {
  words.room(20);
  words.put(title('Material and weight'));
  const densityOf = densityIn({ materials: sheet.subject.materials ?? [] });
  for (const { front } of signs) {
    const { sign } = front;
    const kilograms = weightInAll(sign.blank.material, figuresOfView(front), densityOf);
    const weight = kilograms === undefined ? '' : `, about ${weightWords(kilograms, sign.unit)} each`;
    words.put(ordinary(`${sign.title}: ${sign.blank.material || 'material not named'}, ${sheet.sizeOf(front)}${weight}.`));
  }
}

function brief({ subject }: Sheet, words: Columns, { brief: { contact, quantity, dueOn } }: Frozen): void {
  words.room(20);
  words.put(title('Ordered'));
  words.put(ordinary(`${subject.job}, for ${subject.customer}${contact ? ` (${contact})` : ''}.`));
  words.put(ordinary(`Quantity: ${quantity}.${dueOn ? ` To be ready on ${dueOn}.` : ''}`));
}

/** The answer that came, or the lines to give one by hand. */
function approval(sheet: Sheet, words: Columns, frozen: Frozen): void {
  words.room(62);
  words.put(title('Approval'));
  if (frozen.approval) {
    const { by, at, choices } = frozen.approval;
    const when = at.toISOString().slice(0, 16).replace('T', ' ');
    words.put(ordinary(`Proof ${sheet.subject.revision} was approved by ${by} on ${when} UTC; spelling, sizes and colours were ticked.`)); // prettier-ignore
    for (const choice of choices) words.put(ordinary(choice));
  } else {
    words.put(
      ordinary(
        'We make what this proof shows. With your approval you confirm the spelling of every word, all sizes, and all colours.',
      ),
    );
    for (const name of ['Name', 'Date', 'Signature']) {
      words.down(11);
      const { x, y, width } = words.at;
      sheet.pdf.undash().lineWidth(0.5).strokeColor(INK);
      sheet.pdf
        .moveTo((x + 20) * POINTS_PER_MM, y * POINTS_PER_MM)
        .lineTo((x + width) * POINTS_PER_MM, y * POINTS_PER_MM)
        .stroke();
      sheet.write([ordinary(name, 0)], { x, y: y - 4, width: 20, height: 12 });
    }
  }
  const digest = `Contents ${frozen.digest.slice(0, 16)} … ${frozen.digest.slice(-8)} (SHA-256).`;
  words.put({ ...ordinary(digest, 10), size: 7 });
}
