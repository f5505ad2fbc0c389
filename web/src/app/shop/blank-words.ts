import { type Blank, newSign, sentenceText, ticket } from '@plain-relief/core/sign';

/** A blank in the words of the ticket. */
export const blankWords = (blank: Blank): string =>
  sentenceText(ticket({ ...newSign('Blank', 'mm'), blank }, [])[0]).replace(/^The blank is /u, '');
