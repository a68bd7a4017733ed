import type { Unseen } from '@/core/refusal';

/** Requests to the web process; a refusal comes as an error with the server's own words. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly fields: Record<string, string> = {},
    /** What others have changed of what was to be written. */
    readonly unseen: Unseen[] = [],
    /** The last change when that was found. */
    readonly foundAt?: number,
  ) {
    super(message);
  }
}

/** Asks the house. @returns its answer @throws a refusal, or that it could not be reached */
export async function api<T>(path: string, init: RequestInit = {}): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      ...init,
      headers: { 'content-type': 'application/json', ...init.headers },
    });
  } catch {
    throw new ApiError(
      0,
      'offline',
      'Wingman cannot be reached right now. Nothing was changed; what you typed is kept.',
    );
  }
  const json = (await response.json().catch(() => null)) as {
    error?: {
      code: string;
      message: string;
      fields?: Record<string, string>;
      unseen?: Unseen[];
      seq?: number;
    };
    message?: string;
  } | null;
  if (!response.ok)
    throw new ApiError(
      response.status,
      json?.error?.code ?? 'unavailable',
      json?.error?.message ??
        json?.message ??
        'Wingman cannot answer right now. Nothing was changed.',
      json?.error?.fields,
      json?.error?.unseen,
      json?.error?.seq,
    );
  return json as T;
}

/** Signs out here, and goes where one signs in. */
export const signOut = (): void =>
  void api('/api/auth/sign-out', { method: 'POST', body: '{}' }).finally(() =>
    window.location.assign('/sign-in'),
  );
