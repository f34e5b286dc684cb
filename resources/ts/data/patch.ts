import type { PatchStep } from './api';

type Node = Record<string, unknown> | unknown[];

/** A copy of the document with the steps applied; parts that do not change are shared. */
export function applyPatch<T>(document: T, patch: PatchStep[]): T {
    let result: unknown = document;
    for (const step of patch) {
        const keys = step.path.split('/').slice(1).map((k) => k.replaceAll('~1', '/').replaceAll('~0', '~'));
        result = change(result, keys, step);
    }
    return result as T;
}

function change(node: unknown, keys: string[], step: PatchStep): unknown {
    const [key, ...rest] = keys;
    if (key === undefined) return step.op === 'remove' ? undefined : step.value;
    const copy: Node = Array.isArray(node) ? [...node] : { ...(node as Record<string, unknown>) };
    if (Array.isArray(copy)) {
        const at = key === '-' ? copy.length : Number(key);
        if (rest.length > 0) copy[at] = change(copy[at], rest, step);
        else if (step.op === 'remove') copy.splice(at, 1);
        else if (step.op === 'add') copy.splice(at, 0, step.value);
        else copy[at] = step.value;
    } else if (rest.length > 0) copy[key] = change(copy[key], rest, step);
    else if (step.op === 'remove') delete copy[key];
    else copy[key] = step.value;
    return copy;
}
