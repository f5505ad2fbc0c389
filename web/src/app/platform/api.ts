import { HttpClient, type HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { catchError, type Observable, throwError } from 'rxjs';

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

/** Requests to the server, with its refusals as {@link ApiError}. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  get<T>(path: string): Observable<T> {
    return this.http.get<T>(`/api${path}`).pipe(catchError(toApiError));
  }
  post<T>(path: string, body: unknown): Observable<T> {
    return this.http.post<T>(`/api${path}`, body).pipe(catchError(toApiError));
  }
  put<T>(path: string, body: unknown): Observable<T> {
    return this.http.put<T>(`/api${path}`, body).pipe(catchError(toApiError));
  }
  patch<T>(path: string, body: unknown): Observable<T> {
    return this.http.patch<T>(`/api${path}`, body).pipe(catchError(toApiError));
  }
  delete(path: string): Observable<void> {
    return this.http.delete<void>(`/api${path}`).pipe(catchError(toApiError));
  }
}
