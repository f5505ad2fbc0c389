export { counted, lettersOf } from './counters.js';
export { type List, LIST_LIMITS, ListError, listFile, listOf } from './list.js';
export { readList } from './read-list.js';
export { type Plate, plateOf, type PlateState } from './plates.js';
export { type PlateSign, plateSign } from './plate-sign.js';
export { matched, type Matching, repeated, repeatedValues, type RowRemark, rowRemarks, rowValues, unfilled } from './rows.js';
export {
  EFFORT,
  isOptionOfList,
  matchingOf,
  nestChoiceOf,
  newRun,
  type Renewed,
  Run,
  runFault,
  type RunRow,
  type RunSheet,
  signOfRun,
  valuesOfRun,
  withList,
} from './run.js';
export { type Correction, filled, type Filled, slotsInWords, takesLists, type Values } from './slots.js';
export {
  type Corrected,
  plateDocument,
  type ReadChoice,
  type ReadPlate,
  type ReadPlates,
  readPlates,
  type ReadSlot,
  readSlots,
  type RunChanges,
  runChanges,
  type ValueCorrection,
  withValues,
} from './proofed.js';
export { brailleOfRows, type CellsOf, withBraille } from './row-braille.js';
export { heldPlates, numbersInWords } from './held-plates.js';
export { lengthsOf, type OfferedSetting, offeredSettings, type SettableLength, settingWords } from './settings.js';
export {
  edgeOfPlate,
  laidOnSheets,
  type MappedItem,
  onSheet,
  sheetDrawing,
  type SheetItem,
  sheetMap,
  tooNearOnSheet,
  sheetTroubles,
  tooNearWords,
} from './sheets.js';
export {
  filesOfSheet,
  type FilesOfSheet,
  type NamedFile,
  PLATE_FILES,
  type PlateFile,
  plateFileName,
  sheetFiles,
  type WrittenPlate,
  writtenPlate,
} from './plate-files.js';
export { type ReportedRow, reportFile } from './report.js';
export { slotName, withSlot, withSlotIn, withSlotSet, withWords, wordsOfPart } from './edit-slots.js';
