import type { PatchStep } from './api';

type Node = Record<string, unknown> | unknown[];

/** A copy of the document with the steps applied; parts that do not change are shared. */
export function applyPatch<T>(document: T, patch: PatchStep[]): T {
    let result: unknown = document;
    for (const step of patch) {
        result = change(result, keysOf(step.path), step);
    }
    return result as T;
}

/**
 * The steps with what they stand on: a field may be shown with what is usual there before the document says anything of it,
 * and what is not there can be neither added to nor taken away.
 */
export function standing(document: unknown, patch: PatchStep[]): PatchStep[] {
    let now = document;
    return patch.flatMap((step) => {
        const keys = keysOf(step.path);
        const steps: PatchStep[] = [];
        let node = now;
        for (let k = 0; k + 1 < keys.length; k++) {
            const next = (node as Record<string, unknown> | null | undefined)?.[keys[k]!];
            if (next === undefined || next === null) {
                if (step.op === 'remove') return [];
                steps.push({ op: 'add', path: pathOf(keys.slice(0, k + 1)), value: {} });
                node = {};
            } else node = next;
        }
        const last = keys.at(-1);
        const there = last === undefined || Array.isArray(node) || (node as Record<string, unknown>)[last] !== undefined;
        if (step.op === 'remove' && !there) return [];
        steps.push(step.op === 'replace' && !there ? { ...step, op: 'add' } : step);
        now = applyPatch(now, steps);
        return steps;
    });
}

/** What stands at a path; undefined where nothing does. */
export function at(document: unknown, path: string): unknown {
    return keysOf(path).reduce<unknown>((node, key) => (node as Record<string, unknown> | null | undefined)?.[key], document);
}

function keysOf(path: string): string[] {
    return path.split('/').slice(1).map((k) => k.replaceAll('~1', '/').replaceAll('~0', '~'));
}

function pathOf(keys: readonly string[]): string {
    return keys.map((k) => '/' + k.replaceAll('~', '~0').replaceAll('/', '~1')).join('');
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
