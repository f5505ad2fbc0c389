import { HttpClient, type HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { Answer, Asked, Endpoint, Upload } from '@plain-relief/api';
import { catchError, firstValueFrom, throwError, type Observable } from 'rxjs';

/** What the server answers when it refuses. */
export interface Refusal {
  readonly code: string;
  readonly message: string;
}

/** A failed request: a refusal with its status and body, or no answer at all (status 0). */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly body: unknown,
  ) {
    super(message);
  }

  /** Whether trying again later may help: nothing answered, or the database was away. */
  get isPassing(): boolean {
    return this.status === 0 || this.status === 429 || this.status >= 500;
  }
}

const toApiError = (error: HttpErrorResponse): Observable<never> => {
  const body = error.error as Refusal | null;
  const message =
    error.status === 0
      ? 'The server does not answer. Is it running? Nothing typed is lost.'
      : (body?.message ?? `The server answered ${error.status}.`);
  return throwError(() => new ApiError(error.status, message, body));
};

/** A request's parts as they are written down, whatever its endpoint. */
interface Parts {
  readonly params?: Readonly<Record<string, string>>;
  readonly query?: Readonly<Record<string, string | undefined>>;
  readonly body?: unknown;
}

/** Requests to the endpoints of the api package, typed by its schemas. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  /**
   * Asks an endpoint, and gives what it answers.
   * @throws ApiError
   */
  ask<K extends Endpoint>(endpoint: K, ...[asked]: object extends Asked<K> ? [Asked<K>?] : [Asked<K>]): Promise<Answer<K>> {
    const { params = {}, query = {}, body = {} } = (asked ?? {}) as Parts;
    const [method, path] = endpoint.split(' ');
    const url = path.replace(/:(\w+)/gu, (_, name: string) => encodeURIComponent(params[name]));
    const said = Object.entries(query).filter((each): each is [string, string] => each[1] !== undefined);
    const isReading = method === 'GET' || method === 'DELETE';
    return firstValueFrom(
      this.http
        .request<Answer<K>>(method, `/api${url}`, { params: Object.fromEntries(said), ...(!isReading && { body }) })
        .pipe(catchError(toApiError)),
    );
  }

  /**
   * Sends a file to an endpoint that takes one.
   * @throws ApiError
   */
  upload<K extends Upload>(
    endpoint: K,
    file: Blob,
    name: string,
    ...[asked]: object extends Asked<K> ? [Asked<K>?] : [Asked<K>]
  ): Promise<Answer<K>> {
    const form = new FormData();
    form.append('file', file, name);
    const request = this.ask as (endpoint: K, asked: Parts) => Promise<Answer<K>>;
    return request.call(this, endpoint, { ...asked, body: form });
  }
}
