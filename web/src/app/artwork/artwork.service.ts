import { inject, Injectable } from '@angular/core';
import type { ArtworkChoice } from '@plain-relief/core/artwork';
import { firstValueFrom } from 'rxjs';
import { Api } from '../shell/api';

export interface ArtworkOrder {
  readonly source: string;
  readonly choice: ArtworkChoice;
}

/** What is seen of one colour, in mm, y up, about the middle of the file's page. */
export interface ArtworkColour {
  readonly colour: string;
  readonly areaMm2: number;
  /** Extent and middle. */
  readonly width: number;
  readonly height: number;
  readonly x: number;
  readonly y: number;
  /** Path data with y up, for the sign document. */
  readonly path: string;
  /** In micrometres with y downwards, for the screen. */
  readonly preview: string;
}

export interface ArtworkView {
  readonly width: number;
  readonly height: number;
  readonly isSized: boolean;
  readonly report: readonly string[];
  readonly colours: readonly ArtworkColour[];
}

export interface ArtworkAnswer {
  readonly artwork?: ArtworkView;
  readonly refusal?: string;
}

export interface KeptFile {
  readonly id: string;
  readonly name: string;
  readonly size: number;
}

/** A file that cannot be taken over. */
export class ArtworkRefusal extends Error {}

const LONGEST_MS = 20_000;

/** Reads customers' drawings, each in a worker of its own that can be stopped, and keeps the originals with the job. */
@Injectable({ providedIn: 'root' })
export class ArtworkService {
  private readonly api = inject(Api);

  /** @throws ArtworkRefusal; also when `signal` stops it, or after 20 seconds */
  read(order: ArtworkOrder, signal: AbortSignal): Promise<ArtworkView> {
    const worker = new Worker(new URL('./artwork.worker', import.meta.url), { type: 'module' });
    return new Promise<ArtworkView>((done, refused) => {
      const refuse = (sentence: string) => refused(new ArtworkRefusal(sentence));
      const timer = setTimeout(
        () => refuse('The drawing took longer than 20 seconds to read and was given up: simplify it first.'),
        LONGEST_MS,
      );
      signal.addEventListener('abort', () => refuse('Stopped.'));
      worker.onerror = () => refuse('The drawing could not be read: there was not enough memory, or the page is out of date.');
      worker.onmessage = ({ data }: MessageEvent<ArtworkAnswer>) => {
        clearTimeout(timer);
        if (data.artwork) done(data.artwork);
        else refuse(data.refusal ?? 'The drawing could not be read.');
      };
      worker.postMessage(order);
    }).finally(() => worker.terminate());
  }

  /** Keeps an original with the job, once. @throws ApiError */
  keep(job: string, name: string, text: string): Promise<KeptFile> {
    return firstValueFrom(this.api.post<KeptFile>(`/jobs/${job}/files`, { name, text }));
  }

  files(job: string): Promise<readonly KeptFile[]> {
    return firstValueFrom(this.api.get<readonly KeptFile[]>(`/jobs/${job}/files`));
  }
}
