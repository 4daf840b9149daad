import type { Request, Response } from 'express';
import { MOST_MEBIBYTES, wordsIn } from '@zusammen/core/forms/hosted';
import { bytesOf } from '../body.ts';
import type { Context } from '../context.ts';
import { Problem } from '../problem.ts';
import type { LiveForm } from './answering.ts';
import { enterUpload, filesAsked, keepFile } from './files.ts';
import { formProblem } from './held.ts';

/**
 * `POST /f/:intake/file?question=…&name=…&page=…`: a file by itself, as soon as it is chosen; its bytes are the body.
 * @throws Problem 404 where no such question asks for one
 */
export async function takeFile(
  context: Context,
  { live, form, language }: LiveForm,
  request: Request,
  response: Response,
): Promise<void> {
  const { question = '', name = '', page = '' } = request.query;
  const item = filesAsked(form).of(String(question).slice(0, 200));
  if (!item) throw new Problem(404, 'Not found', 'No such question asks for a file.');
  const leave = enterUpload(String(request.ip));
  try {
    const bytes = await bytesOf(request, MOST_MEBIBYTES * 1024 * 1024 + 1).catch((error: unknown) => {
      if (error instanceof Problem && error.status === 413) return undefined;
      throw error;
    });
    const by = { language, page: String(page).slice(0, 400), by: String(request.ip) };
    const kept = bytes
      ? await keepFile(context, live.intake.id, item, { name: String(name).slice(0, 1000), bytes }, by)
      : wordsIn(language).fileTooLarge(item.mostMebibytes ?? MOST_MEBIBYTES);
    if (typeof kept !== 'string') return void response.status(201).json(kept);
    const problem = formProblem(kept, [{ field: String(question), message: kept }]);
    response.status(422).type('application/problem+json').send(JSON.stringify(problem));
  } finally {
    leave();
  }
}
