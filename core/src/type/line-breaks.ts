/** A stretch of a line: the index of its first character and the one after its last. */
export type Piece = readonly [from: number, to: number];

/**
 * Where a line may be broken: after spaces and zero-width spaces, and after hyphens and dashes between letters (the rules
 * of UAX #14 that matter on signs: LB7, LB18, LB21; no-break space and no-break hyphen hold, LB11 and LB12).
 */
export function breakPlaces(text: string): number[] {
  const out: number[] = [];
  for (let i = 1; i < text.length; i++) {
    const [before, here] = [text[i - 1], text[i]];
    const isAfterSpace = /[ \u2000-\u2006\u2008-\u200b\u3000]/u.test(before) && !/[ \u2000-\u200b\u3000]/u.test(here);
    const isAfterDash = /[-\u2010\u2012\u2013]/u.test(before) && /\p{L}/u.test(here) && /\p{L}/u.test(text[i - 2] ?? '');
    if (isAfterSpace || isAfterDash) out.push(i);
  }
  return out;
}

/**
 * Breaks a line into at most so many pieces no wider than `room`, as full as can be from the top. Where that takes more
 * pieces, the pieces are as even as they can be and wider than the room. Spaces at a break belong to no piece.
 * @param width width of the text from one index to another
 */
export function breakLine(text: string, most: number, room: number, width: (from: number, to: number) => number): Piece[] {
  const places = [0, ...breakPlaces(text), text.length];
  const trimmed = (from: number, to: number): Piece => [from, from + text.slice(from, to).trimEnd().length];
  const filled = (limit: number): Piece[] => {
    const pieces: Piece[] = [];
    let from = 0;
    while (from < places.length - 1) {
      let to = from + 1;
      while (to + 1 < places.length && width(...trimmed(places[from], places[to + 1])) <= limit) to++;
      pieces.push(trimmed(places[from], places[to]));
      from = to;
    }
    return pieces.length > 0 ? pieces : [[0, 0]];
  };
  const pieces = filled(room);
  if (pieces.length <= most) return pieces;
  let [narrow, wide] = [room, width(0, text.length)];
  for (let i = 0; i < 30; i++) {
    const middle = (narrow + wide) / 2;
    if (filled(middle).length <= most) wide = middle;
    else narrow = middle;
  }
  return filled(wide);
}
