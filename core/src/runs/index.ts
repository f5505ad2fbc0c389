export { counted, lettersOf } from './counters.js';
export { type List, LIST_LIMITS, ListError, listFile, listOf, readList } from './list.js';
export { type Plate, plateOf, type PlateState } from './plates.js';
export { matched, type Matching, repeated, type RowRemark, rowRemarks, rowValues, unfilled } from './rows.js';
export { filled, type Filled, slotsInWords, type Values } from './slots.js';
export { edgeOfPlate, laidOnSheets, sheetDrawing, type SheetItem, sheetMap } from './sheets.js';
