import type { ShotCard } from '../data/api';

export type Sort = 'changed' | 'opened' | 'made' | 'name';

export const SORTS: readonly { value: Sort; label: string }[] = [
    { value: 'changed', label: 'last changed' },
    { value: 'opened', label: 'last opened' },
    { value: 'made', label: 'newest' },
    { value: 'name', label: 'name' },
];

/** A shot with this tag is offered to begin others from. */
export const TEMPLATE = 'template';

/** Folders there are, by name. */
export function foldersOf(shots: readonly ShotCard[]): string[] {
    return [...new Set(shots.map((s) => s.folder).filter((f) => f !== ''))].sort((a, b) => a.localeCompare(b));
}

/** Shots in a folder (null for all) whose name, tags or props hold all of the words, in order. */
export function sought(shots: readonly ShotCard[], folder: string | null, words: string, by: Sort): ShotCard[] {
    const wanted = words.trim().toLowerCase().split(/\s+/).filter((w) => w !== '');
    const found = shots.filter((s) => (folder === null || s.folder === folder) && wanted.every((w) => [s.name, s.folder, ...s.tags, ...s.props].join('\n').toLowerCase().includes(w)));
    const time = (s: ShotCard) => Date.parse(by === 'opened' ? (s.openedAt ?? '1970-01-01') : by === 'made' ? s.madeAt : s.changedAt);
    return [...found].sort((a, b) => (by === 'name' ? a.name.localeCompare(b.name, undefined, { numeric: true }) : time(b) - time(a)));
}
