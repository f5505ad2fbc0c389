/** Things of one height in a list that is scrolled: which are seen, with a few before and after. */
export interface Seen {
  readonly from: number;
  readonly to: number;
}

/** Rows beyond those that are seen, so that scrolling shows no gaps. */
const BEYOND = 6;

/** @param top px that are scrolled @param height px that are seen @param each px of one */
export function windowOf(count: number, top: number, height: number, each: number): Seen {
  const from = Math.max(0, Math.min(count, Math.floor(top / each) - BEYOND));
  return { from, to: Math.min(count, Math.ceil((top + height) / each) + BEYOND) };
}
