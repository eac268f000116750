/** What every route needs: who asks, refusals, and problems out of a schema. */
import type { Request, Response } from 'express';
import type { z } from 'zod';
import { type Problem, problem } from '@yellowhammer/core/model/problem';
import type { Author } from './store.ts';

/** A header may hold anything: what is no encoded text is taken as it stands. */
function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

export const author = (req: Request): Author => ({
  who: decoded(String(req.header('x-who') ?? 'Planner')).slice(0, 100) || 'Planner',
  client: String(req.header('x-client') ?? 'unknown').slice(0, 100),
});

export const refuse = (res: Response, status: number, problems: Problem[]): void => void res.status(status).json({ problems });
export const notThere = (res: Response): void => refuse(res, 404, [problem('UNKNOWN_PROJECT', 'There is no such project. It may have been deleted.')]);

export const zodProblems = (e: z.ZodError): Problem[] =>
  e.issues.slice(0, 20).map((i) => problem('WRONG_VALUE', `${i.path.join('.') || 'the request'}: ${i.message}`, { field: i.path.join('.') }));
