/** A no of the letters' own shape: `{ error: { code, message, field } }`. */
export class LettersError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly field?: string,
  ) {
    super(message);
  }

  body(): object {
    const { code, message, field } = this;
    return { error: { code, message, ...(field === undefined ? {} : { field }) } };
  }
}
