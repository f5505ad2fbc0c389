export {
  formatArea,
  formatLength,
  formatLengthExact,
  LengthError,
  type LengthUnit,
  lengthWords,
  MM_PER_INCH,
  parseLength,
} from './length.js';
