import { toast } from 'sonner';
import { ProblemError } from './api';

/** Says a problem in words, with its remedy; anything else is thrown on. */
export function said(e: unknown): void {
    if (!(e instanceof ProblemError)) throw e;
    toast.error(e.problem.message, { description: e.problem.remedy });
}
