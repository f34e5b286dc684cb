import { Search } from 'lucide-react';
import { Select } from '../parts/controls';
import { SORTS, type Sort } from './order';

/** Which shots of the yard are seen, and in which order. */
export interface Seen {
    /** A folder, null for all shots, or what was deleted. */
    folder: string | null;
    deleted: boolean;
    words: string;
    by: Sort;
}

export function Shelf({ seen, folders, onChange }: { seen: Seen; folders: readonly string[]; onChange: (seen: Seen) => void }) {
    const tab = (label: string, folder: string | null, deleted = false) => {
        const on = seen.deleted === deleted && (deleted || seen.folder === folder);
        return <button key={label} type="button" aria-pressed={on} onClick={() => onChange({ ...seen, folder, deleted })} className={`quick h-[29px] border px-2.5 ${on ? 'border-chosen bg-chosen text-on-chosen' : 'border-line bg-raised hover:border-ink'}`}>{label}</button>;
    };
    return (
        <div className="mb-4 flex flex-wrap items-center gap-x-2 gap-y-2">
            <label className="flex h-[29px] w-[230px] items-center gap-1.5 border border-line bg-raised px-2 focus-within:border-ink">
                <Search size={13} aria-hidden className="text-soft" />
                <input aria-label="Search the yard" placeholder="name, tag or prop" value={seen.words} onChange={(e) => onChange({ ...seen, words: e.target.value })} className="min-w-0 flex-1 bg-transparent outline-none" />
            </label>
            <nav aria-label="Folders" className="flex flex-wrap gap-1.5">
                {tab('All', null)}
                {folders.map((f) => tab(f, f))}
                {tab('Deleted', null, true)}
            </nav>
            <span className="flex-1" />
            <div className="w-[230px]"><Select<Sort> label="In order of" value={seen.by} options={SORTS} onChange={(by) => onChange({ ...seen, by })} /></div>
        </div>
    );
}
