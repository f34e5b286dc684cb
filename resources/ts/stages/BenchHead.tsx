import { CircleHelp } from 'lucide-react';
import type { ReactNode } from 'react';
import { useHelp } from '../data/help';
import { group, ungroup } from '../data/groups';
import { useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { Button } from '../parts/controls';
import { Explained } from '../parts/Explained';

/** @param help the page of the docs about this bench, with `#` and a heading where it begins there */
export function BenchHead({ title, under, help, aside }: { title: string; under: string; help?: string; aside?: ReactNode }) {
    const also = useUi((s) => s.also.length);
    return (
        <header className="px-4 pt-3 pb-2.5">
            <div className="flex items-start gap-2">
                <h2 className="min-w-0 flex-1 text-[16px] leading-5 font-bold">
                    {help === undefined ? title : (
                        <button type="button" title="What this bench does, and how: a page of the docs" onClick={() => useHelp.getState().open(help)} className="group inline-flex items-baseline gap-1.5 text-left hover:underline">
                            {title} <CircleHelp size={13} aria-label="Help" className="shrink-0 self-center text-soft group-hover:text-ink" />
                        </button>
                    )}
                </h2>
                {aside}
            </div>
            <p className="text-soft"><Explained>{under}</Explained></p>
            {also > 0 && <Several also={also} />}
        </header>
    );
}

/** What is said where several props are chosen, and the way to have them as a group. */
function Several({ also }: { also: number }) {
    const props = useDocument()?.props ?? [];
    const ids = useUi((s) => s.also);
    const chosen = useUi((s) => s.chosen);
    const groups = new Set(props.filter((p) => p.id === chosen || ids.includes(p.id)).map((p) => p.group ?? ''));
    const [only = ''] = groups;
    return (
        <div className="mt-1 border-l-2 border-ink pl-2">
            <p role="status">And {also === 1 ? 'one more' : `${also} more`}: what is set here is set for all {also + 1}, where they are alike.</p>
            {groups.size === 1 && only !== '' ? <Button className="mt-1" onClick={() => void ungroup()}>Ungroup {only}</Button> : (
                <form className="mt-1 flex gap-1.5" onSubmit={(e) => { e.preventDefault(); void group(String(new FormData(e.currentTarget).get('name') ?? '')); }}>
                    <input name="name" aria-label="Name of the group" placeholder="as a group called…" maxLength={40} onKeyDown={(e) => e.stopPropagation()} className="h-[28px] min-w-0 flex-1 border border-line bg-raised px-2" />
                    <Button type="submit">Group</Button>
                </form>
            )}
        </div>
    );
}

export function ChooseFirst({ what }: { what: string }) {
    return <p className="px-4 py-6 text-soft">Choose a prop in the strip above the stage to {what}, or add one with +.</p>;
}
