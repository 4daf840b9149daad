import type { Complaint } from '@zusammen/core/documents';

/** An error with an answer of its own: problem details (RFC 9457), naming fields and reasons. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly errors: Complaint[] = [],
    readonly headers: Record<string, string> = {},
  ) {
    super(detail);
  }

  body(instance?: string): Record<string, unknown> {
    return {
      type: 'about:blank',
      title: this.title,
      status: this.status,
      detail: this.detail,
      ...(instance ? { instance } : {}),
      ...(this.errors.length === 0 ? {} : { errors: this.errors }),
    };
  }
}

export const notFound = (what: string): Problem => new Problem(404, 'Not found', `There is no ${what}.`);

export const badField = (field: string, reason: string, status = 422): Problem =>
  new Problem(status, 'Not acceptable as it is', field === '' ? `The body ${reason}.` : `${field} ${reason}.`, [
    { field, reason },
  ]);
