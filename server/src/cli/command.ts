import { readFileSync } from 'node:fs';
import { parseArgs, type ParseArgsConfig } from 'node:util';
import { type Side } from '@plain-relief/core/sign';

/** Something to tell the person at the terminal, without a stack. */
export class CommandError extends Error {}

/** What a file has, or standard input for “-”. @throws CommandError */
export function readText(path: string): string {
  try {
    return readFileSync(path === '-' ? 0 : path, 'utf8');
  } catch (error) {
    throw new CommandError(`${path} cannot be read: ${(error as Error).message}.`);
  }
}

/** The same as JSON. @throws CommandError */
export function readDocument(path: string): unknown {
  const text = readText(path);
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new CommandError(`${path} is not JSON: ${(error as Error).message}.`);
  }
}

/** The side that is meant: the front where none is said. @throws CommandError */
export function sideFrom(text = 'front'): Side {
  if (text === 'front' || text === 'back') return text;
  throw new CommandError(`--side ${text} is neither front nor back.`);
}

/** The day that is meant: today where none is said. @throws CommandError */
export function dateFrom(text: string | undefined): Date {
  const date = text === undefined ? new Date() : new Date(`${text}T00:00:00Z`);
  if (Number.isNaN(date.getTime())) throw new CommandError(`--date ${text} is not a date: write it as 2026-11-25.`);
  return date;
}

/** To the day: who makes something twice has the same bytes. */
export const today = (): Date => new Date(new Date().toISOString().slice(0, 10));

/** What parseArgs tells of options of these kinds. */
type Arguments<T extends NonNullable<ParseArgsConfig['options']>> = ReturnType<
  typeof parseArgs<{ args: string[]; allowPositionals: true; options: T }>
>;

/** Options and places of a command's arguments. @throws CommandError with the usage where there is one that it does not have */
export function readArguments<T extends NonNullable<ParseArgsConfig['options']>>(
  args: readonly string[],
  options: T,
  usage: string,
): Arguments<T> {
  try {
    return parseArgs({ args: [...args], allowPositionals: true, options });
  } catch (error) {
    throw new CommandError(`${(error as Error).message}\n\n${usage}`);
  }
}
