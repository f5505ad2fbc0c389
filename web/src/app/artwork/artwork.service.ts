import type { KeptFile } from '@plain-relief/api';
import { inject, Injectable } from '@angular/core';
import { type Box } from '@plain-relief/core/geometry';
import { type ArtworkChoice, type ArtworkFormat, type Finding, type TraceChoice } from '@plain-relief/core/artwork';
import { type DrawnLinePieces } from '@plain-relief/core/sign';
import { Api } from '../platform/api';

/** A customer's file as it was chosen. */
export type ChosenFile =
  | { readonly kind: ArtworkFormat; readonly name: string; readonly text: string }
  | { readonly kind: 'picture'; readonly name: string; readonly bytes: ArrayBuffer };

export type ArtworkOrder =
  | { readonly kind: ArtworkFormat; readonly text: string; readonly choice: Partial<ArtworkChoice> }
  | { readonly kind: 'picture'; readonly bytes: ArrayBuffer; readonly choice: TraceChoice };

/** What is seen of one colour, in mm, y up, about the middle of the file's page. */
export interface ArtworkColour {
  readonly colour: string;
  /** The layer of the drawing. */
  readonly name?: string;
  readonly areaMm2: number;
  readonly lines: number;
  /** Extent and middle. */
  readonly width: number;
  readonly height: number;
  readonly x: number;
  readonly y: number;
  /** Path data with y up, for the sign document. */
  readonly path: string;
  /** In micrometres with y downwards, for the screen. */
  readonly preview: string;
  readonly linesPreview: string;
}

export interface ArtworkView {
  /** Of the file's page, in mm. */
  readonly width: number;
  readonly height: number;
  /** What is seen on it. */
  readonly seen: Box;
  readonly isSized: boolean;
  readonly summary: string;
  readonly findings: readonly Finding[];
  readonly colours: readonly ArtworkColour[];
}

/** The line of a drawing that a sign is bent along, and the radius of its corners in mm. */
export interface LineOrder {
  readonly kind: ArtworkFormat;
  readonly text: string;
  readonly corner: number;
}

export interface LineView extends DrawnLinePieces {
  readonly isSized: boolean;
}

export interface ArtworkAnswer {
  readonly line?: LineView;
  readonly artwork?: ArtworkView;
  readonly refusal?: string;
}

/** A file that cannot be taken over. */
export class ArtworkRefusal extends Error {}

const LONGEST_MS = 20_000;

/** Reads customers' drawings and pictures, each in a worker of its own that can be stopped, and keeps the originals with the job. */
@Injectable({ providedIn: 'root' })
export class ArtworkService {
  private readonly api = inject(Api);

  /** @throws ArtworkRefusal; also when `signal` stops it, or after 20 seconds */
  async read(order: ArtworkOrder, signal: AbortSignal): Promise<ArtworkView> {
    const { artwork, refusal } = await this.answer(order, signal);
    if (!artwork) throw new ArtworkRefusal(refusal ?? 'The file could not be read.');
    return artwork;
  }

  /** @throws ArtworkRefusal; also when `signal` stops it, or after 20 seconds */
  async readLine(order: LineOrder, signal: AbortSignal): Promise<LineView> {
    const { line, refusal } = await this.answer(order, signal);
    if (!line) throw new ArtworkRefusal(refusal ?? 'The file could not be read.');
    return line;
  }

  private answer(order: ArtworkOrder | LineOrder, signal: AbortSignal): Promise<ArtworkAnswer> {
    const worker = new Worker(new URL('./artwork.worker', import.meta.url), { type: 'module' });
    let timer: ReturnType<typeof setTimeout> | undefined;
    return new Promise<ArtworkAnswer>((done, refused) => {
      const refuse = (sentence: string) => refused(new ArtworkRefusal(sentence));
      timer = setTimeout(
        () => refuse('The file took longer than 20 seconds to read and was given up: simplify it first.'),
        LONGEST_MS,
      );
      signal.addEventListener('abort', () => refuse('Stopped.'));
      worker.onerror = () => refuse('The file could not be read: there was not enough memory, or the page is out of date.');
      worker.onmessage = ({ data }: MessageEvent<ArtworkAnswer>) => done(data);
      worker.postMessage(order);
    }).finally(() => {
      clearTimeout(timer);
      worker.terminate();
    });
  }

  /** Keeps an original with the job, once. @throws ApiError */
  keep(job: string, file: ChosenFile): Promise<KeptFile> {
    const content = new Blob([file.kind === 'picture' ? file.bytes : file.text]);
    return this.api.upload('POST /jobs/:id/files', content, file.name, { params: { id: job } });
  }

  files(job: string): Promise<readonly KeptFile[]> {
    return this.api.ask('GET /jobs/:id/files', { params: { id: job } });
  }
}
