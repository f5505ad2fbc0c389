declare module 'nspell' {
  interface Speller {
    correct(word: string): boolean;
    suggest(word: string): string[];
  }
  export default function nspell(dictionary: { readonly aff: string; readonly dic: string }): Speller;
}
