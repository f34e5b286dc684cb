import type { PatchStep } from './api';
import type { Prop, ShotDocument } from './document';
import { at } from './patch';

/** What is of one prop alone: it stays as it is where several are chosen. */
const ALONE = ['/name', '/id', '/source', '/weights', '/blend'];

/** Whether two props are alike where a change is made: moved by the same, broken by the same. */
function alike(one: Prop, other: Prop, path: string): boolean {
    if (path.startsWith('/motion/')) return one.motion.kind === other.motion.kind;
    if (path.startsWith('/break/')) return one.break != null && one.break.pattern === other.break?.pattern;
    return at(other, path.slice(0, path.lastIndexOf('/'))) !== undefined;
}

/** Places and turns change by as much, sizes by the same factor; keyed ones stay. */
function along(path: string, before: unknown, now: unknown, own: unknown): unknown {
    if (Array.isArray(before) && Array.isArray(now) && Array.isArray(own)) return own.map((value, k) => along(path, before[k], now[k], value) ?? value);
    if (typeof before !== 'number' || typeof now !== 'number' || typeof own !== 'number') return undefined;
    return Number((path.startsWith('/place/size') ? (own * now) / before : own + now - before).toPrecision(9));
}

/** What a change of one prop makes of the others that are chosen with it. */
export function onOthers(document: ShotDocument, id: string, others: readonly string[], changes: Record<string, unknown>, how: 'add' | 'replace'): PatchStep[] {
    const one = document.props.find((p) => p.id === id);
    if (one === undefined) return [];
    return document.props.flatMap((other, number) =>
        !others.includes(other.id) || other.id === id
            ? []
            : Object.entries(changes).flatMap(([path, value]): PatchStep[] => {
                if (ALONE.some((own) => path === own || path.startsWith(`${own}/`)) || !alike(one, other, path)) return [];
                if (value === undefined) return [{ op: 'remove', path: `/props/${number}${path}` }];
                if (!path.startsWith('/place/')) return [{ op: how, path: `/props/${number}${path}`, value }];
                const moved = along(path, at(one, path), value, at(other, path));
                return moved === undefined ? [] : [{ op: 'replace', path: `/props/${number}${path}`, value: moved }];
            }),
    );
}
