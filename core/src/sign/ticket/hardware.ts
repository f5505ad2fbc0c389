import { type Sign } from '../document/schema.js';
import { plain, quiet, type Sentence, type Writer } from './sentence.js';

/** Things that go with a sign, such as screws or standoffs: how many of what. */
export type Hardware = NonNullable<Sign['hardware']>[number];

/** "4 × standoffs, satin". */
export const hardwareWords = ({ quantity, what }: Hardware): string => `${quantity} × ${what}`;

const NUMBERS = ['no', 'one kind of', 'two kinds of', 'three kinds of', 'four kinds of', 'five kinds of', 'six kinds of'];
const KINDS = NUMBERS.map((text, count) => [String(count), text] as const);

/** What goes with the sign. */
export function hardwareSentence({ hardware = [] }: Sign, write: Writer): Sentence {
  const kinds = write.choice('kinds of hardware', String(hardware.length), KINDS, 'hardware', 'kind');
  const begin = [plain('It comes with '), kinds, plain(' hardware')];
  if (hardware.length === 0) return { topic: 'heights', words: quiet(...begin, plain('.')) };
  const items = hardware.flatMap(({ quantity, what }, i) => [
    plain(i === 0 ? ': ' : '; '),
    write.number('how many', quantity, '', 'hardware', i, 'quantity'),
    plain(' × '),
    write.name('hardware', what, 'hardware', i, 'what'),
  ]);
  return { topic: 'heights', words: [...begin, ...items, plain('.')] };
}

/** Takes as many kinds of hardware as asked for: further ones are screws until it is said what they are, the last ones go. */
export function setKindsOfHardware(sign: Sign, count: number): void {
  const { hardware = [] } = sign;
  const kept = Array.from({ length: count }, (_, i) => hardware[i] ?? { quantity: 4, what: 'screws' });
  if (kept.length > 0) sign.hardware = kept;
  else delete sign.hardware;
}

/** What is otherwise of the hardware of a later sign. */
export function hardwareChanges({ hardware: before = [] }: Sign, { hardware: after = [] }: Sign): string[] {
  const counted = (list: readonly Hardware[]): Map<string, number> => {
    const counts = new Map<string, number>();
    for (const { quantity, what } of list) counts.set(what, (counts.get(what) ?? 0) + quantity);
    return counts;
  };
  const [were, are] = [counted(before), counted(after)];
  const about = (text: string): string => `Hardware: ${text}`;
  return [
    ...[...are].flatMap(([what, quantity]) => {
      const was = were.get(what);
      if (was === undefined) return [about(`${hardwareWords({ quantity, what })} is new`)];
      return was === quantity ? [] : [about(`${what} ${was} → ${quantity}`)];
    }),
    ...[...were]
      .filter(([what]) => !are.has(what))
      .map(([what, quantity]) => about(`${hardwareWords({ quantity, what })} is left out`)),
  ];
}
