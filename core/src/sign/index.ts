export {
  actionAtLevel,
  amountOf,
  isUpright,
  operationOf,
  sinks,
  THROUGH,
  type TierOperation,
  withMore,
} from './document/actions.js';
export { extentOfOne, type PartExtent } from './document/copies.js';
export { costliestPart, effortOfSides, withUprightSides } from './document/effort.js';
export { SignError, type SignFault } from './document/faults.js';
export {
  BARE,
  chooseFinish,
  FINISHES,
  finishNamed,
  finishOf,
  finishWords,
  lightReflectance,
  linearColour,
} from './document/finishes.js';
export { codeSize, extentOfCodeShape, symbolOfShape } from './document/code-symbol.js';
export { isStale, saidBy, withCells } from './document/braille-words.js';
export { readWords, shownWords, SLOT_TOKEN, type WordsPiece, wordsPieces } from './document/slot-words.js';
export { baseLevels, fontsOf, hasBack, hasInserts, isFlat, planeHosts, type Side, sideOf, tierLevel } from './document/levels.js';
export { areOtherKinds, bareFinish, type DensityOf, typicalDensity, weightInAll, weightWords } from './document/materials.js';
export { extentOfShape, freeId, newCombined, newShape, newSign, newText, newTier } from './document/new-sign.js';
export { newOption, splitOption, withOption } from './document/options.js';
export { blankAllRound, type ConeSize, type UnrolledCone, unrolledCone } from './support/round-blank.js';
export { type DrawnLinePieces, LineError, lineFromDrawing } from './support/line-from-drawing.js';
export { bendAllowance, facePiece, lineCurve, lineLengths, profileCurve, sheetPieces } from './support/support-lines.js';
export {
  type BlockFace,
  faceAt,
  faceNear,
  facesOf,
  laidBlock,
  type LaidBlock,
  mostChamfer,
  mostSide,
} from './support/block-faces.js';
export { bendAlong, canGoAround, goAround } from './edit/support-fields.js';
export { boxAround } from './support/places-on-faces.js';
export { layingWords, madeOnFace, signOfFace } from './support/sign-of-face.js';
export { bringRound, degreesRound } from './support/places-round.js';
export { implausible } from './document/plausible.js';
export { dropStale, movedInOrder, outlinesUsed } from './document/references.js';
export { MOST_CODED, MOST_WORDS } from './document/schema-basics.js';
export { Backer, Blank, BlankEdge, CutTo } from './document/schema-blank.js';
export {
  type Action,
  type Area,
  type BrailleShape,
  type CodeShape,
  type Bridges,
  type Copies,
  type Edge,
  type Finish,
  type Ground,
  type SignContext,
  type Guide,
  type LetterByHand,
  type LinePiece,
  type NamedSection,
  type Part,
  type Place,
  type SectionLine,
  type Shape,
  type ShapePart,
  type Sign,
  type SignChecks,
  type SignOption,
  type Slot,
  type SlotSetting,
  type Counter,
  SignSchema,
  SlotSettingSchema,
  type SitsOn,
  type BlockBody,
  type Support,
  type TextPart,
  type TextPath,
  type Tier,
} from './document/schema.js';
export { upgraded } from './document/upgrades.js';
export { prepareReading, readSign } from './document/validate.js';
export { SIGN_VERSION } from './document/version.js';
export {
  aligned,
  broughtTo,
  type Alignment,
  type Distance,
  distributed,
  grouped,
  type MeasuredBy,
  mirroredParts,
  type Move,
  movedParts,
  moveToDistance,
  type PartBoxes,
  pastedParts,
  turnedParts,
  ungrouped,
  unitsOf,
  withGroup,
} from './edit/arranging.js';
export { copyOf, nextTier, removeParts } from './edit/edit.js';
export { setLetter } from './edit/letters-by-hand.js';
export { placementOfPoints, pointsOfShape, withPoints } from './edit/points.js';
export {
  becomeBlank,
  canBeBlank,
  type Factors,
  factorsToSize,
  hasSize,
  resized,
  scaledDesign,
  scaledTogether,
  sizesApart,
} from './edit/resizing.js';
export { namedSection, sectionAt } from './edit/sections.js';
export { type KindAnswers, SIGN_KINDS, type SignKind, signLike, signOfKind } from './kinds/kinds.js';
export { bridgesFor, cutOut, type SeenText, setField } from './edit/set-field.js';
export { sideEffects } from './edit/side-effects.js';
export { takeOver } from './edit/taken-over.js';
export { numberWord, placesInWords } from './ticket/alike-holes.js';
export { changesBetween } from './ticket/changes.js';
export { hardwareWords } from './ticket/hardware.js';
export { type Limits, limitsAt, measureLimitsAt } from './ticket/limits.js';
export { blankLine, partLine } from './ticket/part-line.js';
export { type FieldPath, type Measure, type Sentence, type TicketField, type TicketWord, type Topic } from './ticket/sentence.js';
export { type SoughtValue, soughtValues } from './ticket/sought.js';
export { spellingOf } from './ticket/spelling.js';
export { sentenceText, ticket, ticketParagraphs } from './ticket/ticket.js';
export { schemaFaults } from './document/schema-faults.js';
export { byKind, closed } from './document/schema-basics.js';
