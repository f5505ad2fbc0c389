type Field = HTMLInputElement | HTMLTextAreaElement;

const isField = (target: EventTarget | null): target is Field =>
  target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement;

/**
 * What to say where a field takes less than is typed or pasted into it, since it has a greatest length; undefined where it takes
 * all. Browsers cut without a word.
 * @param event `beforeinput` of a field
 */
export function cutAtGreatestLength({ target, data, dataTransfer }: InputEvent): string | undefined {
  if (!isField(target) || target.maxLength < 0) return undefined;
  const added = data ?? dataTransfer?.getData('text/plain') ?? '';
  // Fields of numbers have no places in their text.
  const replaced = (target.selectionEnd ?? 0) - (target.selectionStart ?? 0);
  if (target.value.length - replaced + added.length <= target.maxLength) return undefined;
  const name = target.getAttribute('aria-label') ?? target.labels?.[0]?.textContent?.trim() ?? '';
  return `${name === '' ? 'This field' : `“${name.replace(/\s+/gu, ' ').slice(0, 60)}”`} takes ${target.maxLength} characters; what is more was left out.`;
}
