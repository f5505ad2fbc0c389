import { Ajv, type ValidateFunction } from 'ajv';
import { schemaFaults, type SignFault } from '../sign/index.js';
import { type Shop, type ShopMaterial, ShopSchema, type ShopTool } from './schema.js';

const MOST_FAULTS = 20;

/** Thrown for what is no shop, with everything that is wrong with it. */
export class ShopError extends Error {
  constructor(readonly faults: readonly SignFault[]) {
    super(faults.map(({ path, message }) => (path ? `${path}: ${message}` : message)).join('\n'));
    this.name = 'ShopError';
  }
}

let compiled: ValidateFunction | undefined;

/**
 * A document read as a shop's tools and machines, or as one that holds them as its `library`. Ids are unique, and so are the places of
 * tools in the changer.
 * @throws ShopError with path, value and remedy of every fault
 */
export function readShop(source: unknown): Shop {
  const held = typeof source === 'object' && source !== null && 'library' in source ? source.library : source;
  if (typeof held !== 'object' || held === null || Array.isArray(held))
    throw new ShopError([{ path: '', message: 'A shop is a JSON object with version, materials, tools, machines and rates.' }]);
  compiled ??= new Ajv({ discriminator: true, allErrors: true, verbose: true, strict: false }).compile(ShopSchema);
  if (!compiled(held)) throw new ShopError(schemaFaults(compiled.errors ?? [], 'a shop').slice(0, MOST_FAULTS));
  const shop = held as Shop;
  const faults = [
    ...twice(shop.tools, 'tools', 'id'),
    ...twice(shop.tools, 'tools', 'number'),
    ...twice(shop.machines, 'machines', 'id'),
    ...twice(shop.materials, 'materials', 'id'),
    ...shop.tools.flatMap((tool, i) => toolFaults(tool, `tools[${i}]`)),
    ...shop.machines.flatMap(({ spindle: { least, most } }, i) => lessThan(least, most, `machines[${i}].spindle.least`, 'most')),
    ...shop.materials.flatMap(({ chipLoads }, i) => unorderedFaults(chipLoads, `materials[${i}].chipLoads`)),
  ];
  if (faults.length > 0) throw new ShopError(faults.slice(0, MOST_FAULTS));
  return shop;
}

function twice<T, K extends keyof T & string>(list: readonly T[], name: string, key: K): SignFault[] {
  const seen = new Set<T[K]>();
  return list.flatMap((entry, i) => {
    const value = entry[key];
    if (!seen.has(value)) {
      seen.add(value);
      return [];
    }
    return [{ path: `${name}[${i}].${key}`, message: `${String(value)} stands at an earlier one: give each its own.` }];
  });
}

function toolFaults({ form, shank, holder }: ShopTool, path: string): SignFault[] {
  return [
    ...('tip' in form ? lessThan(form.tip, form.diameter, `${path}.form.tip`, 'the diameter') : []),
    ...lessThan(shank, holder.diameter, `${path}.shank`, 'the diameter of its holder'),
  ];
}

function lessThan(value: number, bound: number, path: string, of: string): SignFault[] {
  return value < bound ? [] : [{ path, message: `is ${value} and must be less than ${of}, ${bound}.` }];
}

function unorderedFaults(chipLoads: ShopMaterial['chipLoads'], path: string): SignFault[] {
  const at = chipLoads.findIndex(({ diameter }, i) => i > 0 && diameter <= chipLoads[i - 1].diameter);
  if (at < 0) return [];
  const message = `is ${chipLoads[at].diameter} and must be more than the one before: list them by diameter.`;
  return [{ path: `${path}[${at}].diameter`, message }];
}
