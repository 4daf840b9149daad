/** What the server answered when it didn't do as asked (RFC 9457). */
export class ApiProblem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    detail: string,
    readonly errors: { field: string; reason: string }[] = [],
  ) {
    super(detail);
  }
}

/** Calls our API. @throws ApiProblem with the server's words; status 0 when it can't be reached */
export async function api<T>(
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE',
  path: string,
  body?: unknown,
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      ...(body === undefined ? {} : { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
    });
  } catch {
    throw new ApiProblem(0, 'No connection', 'Zusammen can’t be reached. Check the connection and try again.');
  }
  const text = await response.text();
  if (response.ok) return (text === '' ? undefined : JSON.parse(text)) as T;
  let problem: { title?: string; detail?: string; errors?: { field: string; reason: string }[] } = {};
  try {
    problem = JSON.parse(text) as typeof problem;
  } catch {
    // Something between us and the server answered; its words help nobody.
  }
  throw new ApiProblem(
    response.status,
    problem.title ?? 'Not done',
    problem.detail ?? `The server answers ${response.status}.`,
    problem.errors,
  );
}
