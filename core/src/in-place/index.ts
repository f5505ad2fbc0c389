export { Camera, cameraAt, cameraOf, type Place3, type Standpoint } from './camera.js';
export { homographyBetween, inverse, mapped, type Matrix3, PlaceError, type Point } from './homography.js';
export {
  ARM,
  cameraOfPlace,
  firstScale,
  LEAST_MINUTES,
  minutesOf,
  MOST_SIGNS,
  newPlace,
  PhotographScale,
  Place,
  PlacedSign,
  PlaceGround,
  readingView,
  type ReadingView,
  type SignSize,
  wallMap,
} from './place.js';
export { pictureOfPlace, sizeOfPlace, sizeOfSolid } from './picture-of-place.js';
export { type Hung, placedPicture } from './placed-picture.js';
