import { type Clause, type Standard } from './standard.js';

/**
 * 2010 ADA Standards for Accessible Design (US Department of Justice), section 703. Where inches and millimetres of the text differ by
 * rounding the wider of both counts.
 */
const CLAUSES: readonly Clause[] = [
  { number: '703.2', title: 'Braille', asks: 'Raised characters are said in braille as well.', limit: 'none', measure: 'words-without-braille', most: 0 }, // prettier-ignore
  { number: '703.2.1', title: 'Depth', asks: 'Characters stand 1/32 in (0.8 mm) or more above their background.', limit: '0.8 mm (1/32 in) or more', measure: 'raised-height', least: 0.793 }, // prettier-ignore
  { number: '703.2.2', title: 'Case', asks: 'Characters are capitals.', limit: 'none', measure: 'small-letters', most: 0 },
  { number: '703.2.3', title: 'Style', asks: 'Characters are sans serif, and not italic, oblique, script or highly decorative.', limit: 'none', measure: 'other-style', most: 0 }, // prettier-ignore
  { number: '703.2.4', title: 'Proportions', asks: 'O is from 55 to 110 % as wide as I is high.', limit: '55 to 110 %', measure: 'round-width', least: 55, most: 110 }, // prettier-ignore
  { number: '703.2.5', title: 'Height', asks: 'I is from 5/8 in (16 mm) to 2 in (51 mm) high.', limit: '16 to 51 mm (5/8 to 2 in)', measure: 'character-height', least: 15.875, most: 51 }, // prettier-ignore
  { number: '703.2.6', title: 'Stroke', asks: 'The stroke of I is at most 15 % of its height.', limit: '15 % or less', measure: 'stroke-share', most: 15 }, // prettier-ignore
  { number: '703.2.7', title: 'Spacing', asks: 'Characters are 1/8 in (3.2 mm) or more apart; where their sides lean, at their tops.', limit: '3.2 mm (1/8 in) or more', measure: 'letter-gap', least: 3.175 }, // prettier-ignore
  { number: '703.2.7', title: 'Spacing at the base', asks: 'Characters whose sides lean are 1/16 in (1.6 mm) or more apart at their base.', limit: '1.6 mm (1/16 in) or more', measure: 'letter-gap-at-base', least: 1.5875 }, // prettier-ignore
  { number: '703.2.7', title: 'Widest spacing', asks: 'Characters of a word are at most 4 strokes apart.', limit: '4 strokes or less', measure: 'letter-gap-in-strokes', most: 4 }, // prettier-ignore
  { number: '703.2.7', title: 'Room around', asks: 'Characters are 3/8 in (9.5 mm) or more from raised borders and ornaments.', limit: '9.5 mm (3/8 in) or more', measure: 'character-to-border', least: 9.5 }, // prettier-ignore
  { number: '703.2.8', title: 'Line spacing', asks: 'Baselines of lines are from 135 to 170 % of the character height apart.', limit: '135 to 170 %', measure: 'line-share', least: 135, most: 170 }, // prettier-ignore
  {
    number: '703.3',
    title: 'Contracted',
    asks: 'Braille is contracted (grade 2).',
    limit: 'none',
    measure: 'not-contracted',
    most: 0,
  },
  { number: '703.3.1', title: 'Dots', asks: 'Dots are from 1.5 to 1.6 mm wide at their base.', limit: '1.5 to 1.6 mm', measure: 'dot-base', least: 1.498, most: 1.6003 }, // prettier-ignore
  { number: '703.3.1', title: 'Dot height', asks: 'Dots are from 0.6 to 0.9 mm high.', limit: '0.6 to 0.9 mm', measure: 'dot-height', least: 0.6, most: 0.94 }, // prettier-ignore
  { number: '703.3.1', title: 'Dots apart', asks: 'Dots of a cell are from 2.3 to 2.5 mm apart.', limit: '2.3 to 2.5 mm', measure: 'dot-distance', least: 2.286, most: 2.54 }, // prettier-ignore
  { number: '703.3.1', title: 'Cells apart', asks: 'The same dots of neighbouring cells are from 6.1 to 7.6 mm apart.', limit: '6.1 to 7.6 mm', measure: 'cell-distance', least: 6.1, most: 7.62 }, // prettier-ignore
  { number: '703.3.1', title: 'Lines apart', asks: 'The same dots of a cell and the one below are from 10.0 to 10.2 mm apart.', limit: '10.0 to 10.2 mm', measure: 'line-distance', least: 10, most: 10.2 }, // prettier-ignore
  { number: '703.3.1', title: 'Domes', asks: 'Dots are domed: half-way up they are smaller than at their base.', limit: 'less than 95 %', measure: 'dot-roundness', most: 95 }, // prettier-ignore
  { number: '703.3.1', title: 'Capitals', asks: 'Capitals are indicated only before the first word of sentences, names, letters and initials.', limit: 'none', measure: 'capital-indicators', most: 0, isForPeople: true }, // prettier-ignore
  { number: '703.3.2', title: 'Position', asks: 'Braille is below the whole text that it says.', limit: 'below', measure: 'braille-above', least: 0 }, // prettier-ignore
  { number: '703.3.2', title: 'From characters', asks: 'Braille is 3/8 in (9.5 mm) or more from other tactile characters.', limit: '9.5 mm (3/8 in) or more', measure: 'braille-to-character', least: 9.5 }, // prettier-ignore
  { number: '703.3.2', title: 'From borders', asks: 'Braille is 3/8 in (9.5 mm) or more from raised borders and ornaments.', limit: '9.5 mm (3/8 in) or more', measure: 'braille-to-border', least: 9.5 }, // prettier-ignore
  { number: '703.4.1', title: 'On the wall', asks: 'Baselines are from 48 in (1220 mm) to 60 in (1525 mm) above the floor.', limit: '1220 to 1525 mm (48 to 60 in)', measure: 'height-on-wall', least: 1219.2, most: 1525 }, // prettier-ignore
  {
    number: '703.5.1',
    title: 'Glare',
    asks: 'Characters and their background are not glossy.',
    limit: 'none',
    measure: 'glossy',
    most: 0,
  },
  { number: '703.5.1', title: 'Contrast', asks: 'Characters are lighter or darker than their background. The standard has no figure: 70 % of the lighter one’s reflectance is the usual ask (common practice).', limit: '70 % or more', measure: 'reflectance-contrast', least: 70 }, // prettier-ignore
];

export const ADA_703: Standard = {
  id: 'ada-703',
  name: '2010 ADA Standards, section 703',
  source:
    '2010 ADA Standards for Accessible Design, US Department of Justice, section 703; figures from two recollections that agree, numbers of clauses below 703.2 and 703.3 from one',
  clauses: CLAUSES,
};
