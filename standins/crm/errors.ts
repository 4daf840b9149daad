/** A refusal as OData words it (OData JSON Format 4.01, 21.1 Error Response). */
export class ODataError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly details: { code: string; message: string; target: string }[] = [],
    readonly target?: string,
  ) {
    super(message);
  }

  body(): unknown {
    return {
      error: {
        code: this.code,
        message: this.message,
        ...(this.target === undefined ? {} : { target: this.target }),
        ...(this.details.length === 0 ? {} : { details: this.details }),
      },
    };
  }
}
