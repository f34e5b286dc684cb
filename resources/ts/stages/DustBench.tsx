import { Trash2 } from 'lucide-react';
import type { Prop } from '../data/document';
import { newDust } from '../data/dust';
import { defaultsOf } from '../data/options';
import { editProp, useDocument } from '../data/shot';
import { useCatalogue } from '../data/useCatalogue';
import { AddMenu } from '../parts/AddMenu';
import { Section } from '../parts/controls';
import { Options } from './Options';

/** Kinds of dust a prop may give off. */
const MOST = 4;

/** What a prop gives off. */
export function DustBench({ prop }: { prop: Prop }) {
    const document = useDocument();
    const catalogue = useCatalogue();
    if (!catalogue || !document) return null;
    const all = prop.dust ?? [];
    const add = (from: string) => {
        const entry = catalogue.dust[from]!;
        const dust = newDust(document, prop.id, from, entry.label, defaultsOf(entry));
        void editProp(prop.id, `Add dust ${entry.label.toLowerCase()}`, { '/dust': [...all, dust] });
    };
    return (
        <Section title="Dust and chips" aside={all.length < MOST && <AddMenu label="kind of dust" entries={catalogue.dust} onAdd={add} />}>
            {all.length === 0 && <p className="text-soft">It gives off nothing. Dust and chips can come from cracks and hits, where a map passes, from what moves or from a place, and in bursts.</p>}
            {all.map((dust, k) => {
                const entry = catalogue.dust[dust.from];
                return (
                    <div key={dust.id} role="group" aria-label={dust.name} className="mb-1.5 border border-line bg-raised px-2.5 py-1">
                        <div className="flex items-center gap-2">
                            <span className="font-medium">{entry?.label ?? dust.from}</span>
                            <span className="min-w-0 flex-1 truncate text-soft" title={entry?.meaning}>{entry?.meaning}</span>
                            <button type="button" aria-label={`Remove ${dust.name}`} className="text-soft hover:text-ink" onClick={() => void editProp(prop.id, 'Remove dust', { '/dust': all.filter((d) => d.id !== dust.id) })}><Trash2 size={13} aria-hidden /></button>
                        </div>
                        <Options prop={prop} path={`dust/${k}`} options={entry?.options.filter((o) => o.part === '') ?? []} values={dust.values} label={dust.name} />
                        {[...new Set(entry?.options.map((o) => o.part))].filter((part) => part !== '').map((part) => (
                            <details key={part} className="mt-1 border-t border-dotted border-line pt-1">
                                <summary className="cursor-pointer text-soft hover:text-ink">{part}</summary>
                                <Options prop={prop} path={`dust/${k}`} options={entry!.options.filter((o) => o.part === part)} values={dust.values} label={dust.name} />
                            </details>
                        ))}
                    </div>
                );
            })}
        </Section>
    );
}
