export { fontFaults } from './font-faults.js';
export { madeToMeet, type Met, type Translate } from './meeting.js';
export { type ClauseResult, judged, meets, STANDARDS, standardOf, type Verdict } from './judge.js';
export { contrastOf, type Measured, wordsIn } from './measures.js';
export { type Clause, type MeasureName, type Standard } from './standard.js';
