import { CircleHelp } from 'lucide-react';
import type { ReactNode } from 'react';
import { useHelp } from '../data/help';
import { useUi } from '../data/ui';
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
            {also > 0 && <p role="status" className="mt-1 border-l-2 border-ink pl-2">And {also === 1 ? 'one more' : `${also} more`}: what is set here is set for all {also + 1}, where they are alike.</p>}
        </header>
    );
}

export function ChooseFirst({ what }: { what: string }) {
    return <p className="px-4 py-6 text-soft">Choose a prop in the strip above the stage to {what}, or add one with +.</p>;
}
