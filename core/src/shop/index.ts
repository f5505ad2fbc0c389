export { readShop, ShopError } from './read-shop.js';
export { type Shop, SHOP_VERSION, type ShopMachine, type ShopTool } from './schema.js';
