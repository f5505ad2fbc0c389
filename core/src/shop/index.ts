export { followsPrograms } from './follows-programs.js';
export { densityIn, materialFor, type Weighed } from './material-for.js';
export { rotaryOf } from './rotary-of.js';
export { readShop, ShopError } from './read-shop.js';
export {
  type MachineDialect,
  type Shop,
  SHOP_VERSION,
  type ShopMachine,
  type ShopMaterial,
  type ShopRates,
  type ShopTool,
} from './schema.js';
export { isConeOf, toolFormOf } from './tool-form-of.js';
