import type { Job } from '../../platform/database/models/jobs.js';
import type { Letter } from '../mail/post-office.js';
import type { Proof } from '../../platform/database/models/proofs.js';

const day = (date: Date): string => date.toISOString().slice(0, 10);

/** The letter that goes out with a proof. */
export function sentLetter(job: Job, { letter, recipient, message, expiresAt }: Proof, address: string): Letter {
  const lines = [
    `Proof ${letter} of ${job.title} is ready for you:`,
    '',
    address,
    '',
    ...(message ? [message, ''] : []),
    'Please look it over: the spelling of every word, sizes, and colours. You can put remarks where they belong, ask for',
    'changes, or approve it. What you approve is what we make.',
    '',
    `The address works until ${day(expiresAt)} and needs no account. Whoever has it can answer for you.`,
  ];
  return { jobId: job.id, to: recipient, subject: `Proof ${letter}: ${job.title} (${job.number})`, text: lines.join('\n') };
}

/** The letter when nothing came back. */
export function reminderLetter(job: Job, { letter, recipient, createdAt, expiresAt }: Proof, address: string): Letter {
  const lines = [
    `Proof ${letter} of ${job.title}, sent on ${day(createdAt)}, waits for your answer:`,
    '',
    address,
    '',
    `The address works until ${day(expiresAt)}. We begin when you have approved it.`,
  ];
  return { jobId: job.id, to: recipient, subject: `Waiting for you: proof ${letter} of ${job.title}`, text: lines.join('\n') };
}
