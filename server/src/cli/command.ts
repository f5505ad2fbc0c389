import { readFileSync } from 'node:fs';

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

/** The day that is meant: today where none is said. @throws CommandError */
export function dateFrom(text: string | undefined): Date {
  const date = text === undefined ? new Date() : new Date(`${text}T00:00:00Z`);
  if (Number.isNaN(date.getTime())) throw new CommandError(`--date ${text} is not a date: write it as 2026-11-25.`);
  return date;
}
