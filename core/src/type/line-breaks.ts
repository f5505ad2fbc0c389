import LineBreaker from 'linebreak';

/** A stretch of a line: the index of its first character and the one after its last. */
export type Piece = readonly [from: number, to: number];

/** Where a line may be broken, by the Unicode line breaking algorithm (UAX #14): the indices of the characters after the breaks. */
export function breakPlaces(text: string): number[] {
  const breaker = new LineBreaker(text);
  const out: number[] = [];
  for (let at = breaker.nextBreak(); at && at.position < text.length; at = breaker.nextBreak()) out.push(at.position);
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
