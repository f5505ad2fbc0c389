/** Whether keys go into a field: ticks and the like take none. */
export const isTypedInto = (target: HTMLElement): boolean =>
  /^(TEXTAREA|SELECT)$/u.test(target.tagName) ||
  (target instanceof HTMLInputElement && !/^(checkbox|radio|range|button|color|file)$/u.test(target.type));
