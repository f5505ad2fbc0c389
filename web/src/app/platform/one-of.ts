/** A text as one of the values that it may be, such as that of a choice made of them. @throws RangeError where it is none */
export function oneOf<T extends string>(values: readonly T[], text: string): T {
  const found = values.find((value) => value === text);
  if (found === undefined) throw new RangeError(`“${text}” is none of ${values.join(', ')}.`);
  return found;
}
