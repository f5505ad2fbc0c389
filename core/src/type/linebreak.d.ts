/** The linebreak package comes without types of its own. */
declare module 'linebreak' {
  export default class LineBreaker {
    constructor(text: string);
    nextBreak(): { readonly position: number; readonly required?: boolean } | null;
  }
}
