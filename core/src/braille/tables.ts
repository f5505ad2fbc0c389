/** How words become cells: a table of liblouis, by a name of our own, which signs keep. */
export interface BrailleTable {
  readonly id: string;
  /** As it is chosen. */
  readonly name: string;
  /** BCP 47. */
  readonly language: string;
  /** Whether groups of letters and whole words have cells of their own. */
  readonly isContracted: boolean;
  /** Of Debian's liblouis-data. */
  readonly file: string;
}

const table = (id: string, name: string, language: string, isContracted: boolean, file: string): BrailleTable => ({
  id,
  name,
  language,
  isContracted,
  file,
});

/** The tables that can be chosen, those of English first. */
export const BRAILLE_TABLES: readonly BrailleTable[] = [
  table('ueb-2', 'Unified English, contracted (grade 2)', 'en', true, 'en-ueb-g2.ctb'),
  table('ueb-1', 'Unified English, uncontracted (grade 1)', 'en', false, 'en-ueb-g1.ctb'),
  table('cs', 'Czech', 'cs', false, 'cs-g1.ctb'),
  table('cy-1', 'Welsh, uncontracted', 'cy', false, 'cy-cy-g1.utb'),
  table('cy-2', 'Welsh, contracted', 'cy', true, 'cy-cy-g2.ctb'),
  table('da-1', 'Danish, uncontracted', 'da', false, 'da-dk-g16.ctb'),
  table('da-2', 'Danish, contracted', 'da', true, 'da-dk-g26.ctb'),
  table('de-1', 'German, uncontracted', 'de', false, 'de-g1.ctb'),
  table('de-2', 'German, contracted', 'de', true, 'de-g2.ctb'),
  table('es-1', 'Spanish, uncontracted', 'es', false, 'es-g1.ctb'),
  table('fi', 'Finnish', 'fi', false, 'fi.utb'),
  table('fr-1', 'French, uncontracted', 'fr', false, 'fr-bfu-comp6.utb'),
  table('fr-2', 'French, contracted', 'fr', true, 'fr-bfu-g2.ctb'),
  table('hu-1', 'Hungarian, uncontracted', 'hu', false, 'hu-hu-g1.ctb'),
  table('it', 'Italian', 'it', false, 'it-it-comp6.utb'),
  table('nl', 'Dutch', 'nl', false, 'nl-NL-g0.utb'),
  table('no-0', 'Norwegian, uncontracted', 'no', false, 'no-no-g0.utb'),
  table('no-2', 'Norwegian, contracted', 'no', true, 'no-no-g2.ctb'),
  table('pl', 'Polish', 'pl', false, 'Pl-Pl-g1.utb'),
  table('pt-1', 'Portuguese, uncontracted', 'pt', false, 'pt-pt-g1.utb'),
  table('pt-2', 'Portuguese, contracted', 'pt', true, 'pt-pt-g2.ctb'),
  table('sv-0', 'Swedish, uncontracted', 'sv', false, 'sv-g0.utb'),
];

export const brailleTable = (id: string): BrailleTable | undefined => BRAILLE_TABLES.find((each) => each.id === id);
