/**
 * The check digit of a GS1 number: its figures are weighed 3, 1, 3 … from the right, and the digit brings the sum to a multiple of ten
 * (GS1 General Specifications, section 7.9).
 * @param figures the number without its check digit, figures alone
 */
export function checkDigit(figures: string): string {
  const sum = [...figures].reverse().reduce((all, figure, i) => all + Number(figure) * (i % 2 === 0 ? 3 : 1), 0);
  return String((10 - (sum % 10)) % 10);
}
