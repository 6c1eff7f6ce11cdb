import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import { type AnswerOf, type BodyOf, CONTRACTS, type Contracts, ErrorBody } from '@inkwell-twin/api';
import { type Observable, catchError, throwError } from 'rxjs';

/** An error of the server in words; `offline` when it could not be reached at all. */
export class ApiError extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly offline = false,
  ) {
    super(message);
  }
}

function apiError(error: unknown): ApiError {
  if (!(error instanceof HttpErrorResponse)) return new ApiError('unexpected', String(error));
  if (error.status === 0)
    return new ApiError(
      'offline',
      'The server can’t be reached. It may have been stopped; nothing you changed here is lost.',
      true,
    );
  const parsed = ErrorBody.safeParse(error.error);
  if (!parsed.success) return new ApiError('unexpected', `The server answered with ${error.status}.`);
  const { code, message, where } = parsed.data.error;
  const place = [where?.line !== undefined ? `line ${where.line}` : '', where?.byte !== undefined ? `byte ${where.byte}` : '']
    .filter(Boolean)
    .join(', ');
  return new ApiError(code, place ? `${message} (${place})` : message);
}

/** Calls the server by contract. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);

  call<K extends keyof Contracts>(
    id: K,
    parameters: Record<string, string | number> = {},
    body?: BodyOf<K>,
  ): Observable<AnswerOf<K>> {
    const { method, path } = CONTRACTS[id];
    const url = path.replace(/:([a-z]+)/g, (_, name: string) => encodeURIComponent(String(parameters[name])));
    return this.http
      .request<AnswerOf<K>>(method, url, body === undefined ? {} : { body })
      .pipe(catchError((error: unknown) => throwError(() => apiError(error))));
  }

  /** Sends a file, by the contracts that take one. */
  send<K extends 'bringIn' | 'identify'>(id: K, file: File): Observable<AnswerOf<K>> {
    return this.http
      .post<AnswerOf<K>>(`${CONTRACTS[id].path}?name=${encodeURIComponent(file.name)}`, file, {
        headers: { 'Content-Type': 'application/octet-stream' },
      })
      .pipe(catchError((error: unknown) => throwError(() => apiError(error))));
  }
}
