import { type Blank, newSign, sentenceText, ticket } from '@plain-relief/core/sign';

/** A blank in the words of the ticket. */
export const blankWords = (blank: Blank): string =>
  ticket({ ...newSign('Blank', 'mm'), blank }, [])
    .slice(0, 2)
    .map((sentence) =>
      sentenceText(sentence)
        .replace(/^(?:The blank|It) is /u, '')
        .replace(/\.$/u, ''),
    )
    .join('; ');
