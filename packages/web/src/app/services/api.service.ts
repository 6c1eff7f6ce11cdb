import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type { AnswerOf, BodyOf, Contracts, ErrorBody, readJob, readMatch, readSolid } from '@inkwell-twin/api';
import { NAME_HEADER, PERSON_HEADER, ROUTES, TAB_HEADER } from '@inkwell-twin/api/light';
import { type Observable, catchError, from, map, switchMap, throwError } from 'rxjs';
import { Person } from './person';
import { TAB } from './tab';

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

/** Whether an answer is an error as the server says it: whoever stands between may say another. */
const isOurs = (body: unknown): body is ErrorBody => {
  const { code, message } = (body as Partial<ErrorBody> | null)?.error ?? {};
  return typeof code === 'string' && typeof message === 'string';
};

/** A file with the work of a machine: one that somebody brought, or one that a machine holds. */
export type JobSource = File | { readonly machine: string; readonly file: string };

/** What reads packed answers: its schemas are loaded when the first of them is asked for. */
const readers = (): Promise<typeof import('@inkwell-twin/api')> => import('@inkwell-twin/api');

function apiError(error: unknown): ApiError {
  if (!(error instanceof HttpErrorResponse)) return new ApiError('unexpected', String(error));
  if (error.status === 0)
    return new ApiError(
      'offline',
      'The server can’t be reached. It may have been stopped; nothing you changed here is lost.',
      true,
    );
  if (!isOurs(error.error)) return new ApiError('unexpected', `The server answered with ${error.status}.`);
  const { code, message, where } = error.error.error;
  // The server is there but can't do anything just now: it is tried again like a server that is away.
  if (error.status === 503) return new ApiError(code, message, true);
  const place = [where?.line !== undefined ? `line ${where.line}` : '', where?.byte !== undefined ? `byte ${where.byte}` : '']
    .filter(Boolean)
    .join(', ');
  return new ApiError(code, place ? `${message} (${place})` : message);
}

/** Where bytes were asked for, an error comes as bytes too. */
function unpacked(error: unknown): unknown {
  if (!(error instanceof HttpErrorResponse) || !(error.error instanceof ArrayBuffer)) return error;
  let body: unknown = null;
  try {
    body = JSON.parse(new TextDecoder().decode(error.error));
  } catch {
    // Not ours: the status says what there is to say.
  }
  return new HttpErrorResponse({ ...error, error: body, url: error.url ?? '' });
}

/** Calls the server by contract. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);
  private readonly person = inject(Person);

  private get headers(): Record<string, string> {
    return { [PERSON_HEADER]: this.person.id, [NAME_HEADER]: encodeURIComponent(this.person.name()), [TAB_HEADER]: TAB };
  }

  call<K extends keyof Contracts>(
    id: K,
    parameters: Record<string, string | number> = {},
    body?: BodyOf<K>,
    query: Record<string, string> = {},
  ): Observable<AnswerOf<K>> {
    const { method, path } = ROUTES[id];
    const { headers } = this;
    const url = path.replace(/:([a-z]+)/g, (_, name: string) => encodeURIComponent(String(parameters[name])));
    return this.http
      .request<AnswerOf<K>>(method, url, { headers, params: query, ...(body === undefined ? {} : { body }) })
      .pipe(catchError((error: unknown) => throwError(() => apiError(error))));
  }

  /** A full comparison, with both sides of one sheet. */
  match(id: string, leaf: number): Observable<ReturnType<typeof readMatch>> {
    const url = ROUTES.match.path.replace(':id', encodeURIComponent(id));
    return from(readers()).pipe(
      switchMap(({ readMatch: read }) =>
        this.http.get(url, { headers: this.headers, params: { leaf }, responseType: 'arraybuffer' }).pipe(map(read)),
      ),
      catchError((error: unknown) => throwError(() => apiError(unpacked(error)))),
    );
  }

  /** A copy as it will be, beside the master, with both sides of one sheet. Nothing of it is kept. */
  foresee(master: string, recipe: BodyOf<'foresee'>, leaf: number): Observable<ReturnType<typeof readMatch>> {
    const url = ROUTES.foresee.path.replace(':id', encodeURIComponent(master));
    return from(readers()).pipe(
      switchMap(({ readMatch: read }) =>
        this.http.post(url, recipe, { headers: this.headers, params: { leaf }, responseType: 'arraybuffer' }).pipe(map(read)),
      ),
      catchError((error: unknown) => throwError(() => apiError(unpacked(error)))),
    );
  }

  /**
   * A full comparison of a file that is a copy of ours, with both sides of one sheet. Nothing of it is kept.
   * @param copy the copy that it is taken for; empty where the file says it itself
   */
  matchFile(file: File, leaf: number, copy: string): Observable<ReturnType<typeof readMatch>> {
    const params = { name: file.name, leaf, copy };
    const headers = { ...this.headers, 'content-type': 'application/octet-stream' };
    return from(readers()).pipe(
      switchMap(({ readMatch: read }) =>
        this.http.post(ROUTES.matchFile.path, file, { headers, params, responseType: 'arraybuffer' }).pipe(map(read)),
      ),
      catchError((error: unknown) => throwError(() => apiError(unpacked(error)))),
    );
  }

  /** What a machine does with a file: one that somebody brought, or one that a machine holds. Nothing of it is kept. */
  job(source: JobSource): Observable<ReturnType<typeof readJob>> {
    const asked = { headers: this.headers, responseType: 'arraybuffer' } as const;
    const answer =
      source instanceof File
        ? this.http.post(ROUTES.lookAtJob.path, source, {
            ...asked,
            params: { name: source.name },
            headers: { ...this.headers, 'content-type': 'application/octet-stream' },
          })
        : this.http.get(
            ROUTES.heldJob.path
              .replace(':machine', encodeURIComponent(source.machine))
              .replace(':file', encodeURIComponent(source.file)),
            asked,
          );
    return from(readers()).pipe(
      switchMap(({ readJob: read }) => answer.pipe(map(read))),
      catchError((error: unknown) => throwError(() => apiError(unpacked(error)))),
    );
  }

  /** A solid of a draft as it would be made. */
  solid(master: string, body: BodyOf<'solid'>): Observable<ReturnType<typeof readSolid>> {
    const url = ROUTES.solid.path.replace(':id', encodeURIComponent(master));
    return from(readers()).pipe(
      switchMap(({ readSolid: read }) =>
        this.http.post(url, body, { headers: this.headers, responseType: 'arraybuffer' }).pipe(map(read)),
      ),
      catchError((error: unknown) => throwError(() => apiError(unpacked(error)))),
    );
  }

  /** Sends a file, by the contracts that take one. @param of the master or the copy that it is for */
  send<K extends 'attach' | 'bringIn' | 'identify' | 'look' | 'addPicture' | 'lookNewer'>(
    id: K,
    file: File,
    of = '',
    params: Readonly<Record<string, string | number>> = {},
  ): Observable<AnswerOf<K>> {
    const path = ROUTES[id].path.replace(':id', encodeURIComponent(of));
    return this.http
      .post<AnswerOf<K>>(path, file, {
        params: { name: file.name, ...params },
        headers: { ...this.headers, 'Content-Type': 'application/octet-stream' },
      })
      .pipe(catchError((error: unknown) => throwError(() => apiError(error))));
  }
}
