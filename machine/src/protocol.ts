import { type Controller, Refusal } from './controller.js';
import { readDescription } from './description.js';

/** Bytes of a program at most. */
export const MOST_BYTES = 200_000_000;

/** What a line asks for. */
export type Asked =
  /** Bytes of a program follow the line. */
  | { readonly kind: 'take'; readonly bytes: number; readonly id: string; readonly name: string }
  | { readonly kind: 'said'; readonly answer: string };

/** Carries a line out, and says what came of it: “ok …” or “no ” and a sentence. */
export function answerTo(controller: Controller, line: string): Asked {
  const [verb, ...words] = line.trim().split(/\s+/u);
  const said = (answer: string): Asked => ({ kind: 'said', answer });
  const rest = line.trim().slice(verb.length).trim();
  try {
    switch (verb) {
      case 'hello':
        return said('ok practice machine of Plain Relief, 1: a stand-in that cuts nothing');
      case 'state':
        return said(`ok ${JSON.stringify(controller.report())}`);
      case 'be':
        controller.be(readDescription(JSON.parse(rest)));
        break;
      case 'zero':
        controller.lay({ x: figure(words[0], 'x'), y: figure(words[1], 'y'), z: figure(words[2], 'z') });
        break;
      case 'take': {
        const bytes = figure(words[0], 'bytes');
        if (!Number.isInteger(bytes) || bytes < 1 || bytes > MOST_BYTES)
          throw new Refusal(`A program has 1 to ${MOST_BYTES} bytes, and this one ${bytes}.`);
        const [, id = 'job', ...name] = words;
        return { kind: 'take', bytes, id, name: name.join(' ') || 'program' };
      }
      case 'run':
        if (words.length > 0 && words[0] !== 'from') throw new Refusal('It is “run”, or “run from” and a line.');
        controller.run(words.length > 0 ? figure(words[1], 'line') : undefined);
        break;
      case 'hold':
        controller.hold();
        break;
      case 'go':
        controller.go();
        break;
      case 'stop':
        controller.stop();
        break;
      case 'tool':
        controller.changed(figure(words[0], 'tool'));
        break;
      case 'feed':
        controller.feed(figure(words[0], 'percent'));
        break;
      case 'door':
        controller.door(oneOf(words[0], 'open', 'closed') === 'open');
        break;
      case 'faster':
        controller.rehearse(figure(words[0], 'times'));
        break;
      case 'power':
        controller.power(oneOf(words[0], 'on', 'off') === 'on');
        break;
      case 'home':
        controller.home();
        break;
      default:
        throw new Refusal(
          `“${verb.slice(0, 20)}” is no word of this machine: hello, state, be, zero, take, run, hold, go, stop, tool, feed, door, faster, power, home.`,
        );
    }
    return said('ok');
  } catch (error) {
    return said(`no ${oneLine((error as Error).message)}`);
  }
}

/** A sentence in one line. */
export const oneLine = (words: string): string => words.replace(/\s*\n\s*/gu, ' ');

function figure(word: string | undefined, name: string): number {
  const value = Number(word);
  if (word === undefined || !Number.isFinite(value)) throw new Refusal(`${name} is “${word ?? ''}” and must be a figure.`);
  return value;
}

function oneOf<T extends string>(word: string | undefined, ...choices: readonly T[]): T {
  const found = choices.find((each) => each === word);
  if (!found) throw new Refusal(`“${word ?? ''}” must be ${choices.join(' or ')}.`);
  return found;
}
