import { ChevronDown, ChevronUp, Copy, Trash2 } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { Catalogue } from '../../data/api';
import type { Prop, WeightMap, WeightSource } from '../../data/document';
import { AMOUNT } from '../../data/lanes';
import { endTrial, tryOut } from '../../data/maps';
import { editProp, useDocument } from '../../data/shot';
import { isKeyed } from '../../data/track';
import { useUi } from '../../data/ui';
import { OPERATIONS, sourceName, type Operation } from '../../data/weights';
import { KeyedNumber } from '../../parts/KeyedField';

interface Props {
    prop: Prop;
    map: WeightMap;
    mapAt: number;
    catalogue: Catalogue;
}

/** The sources of a map from the first to the last; resting the pointer on one shows it by itself. */
export function SourceStack({ prop, map, mapAt, catalogue }: Props) {
    const document = useDocument()!;
    const { layer, set } = useUi();
    const path = `/weights/${mapAt}/sources`;
    const chosen = Math.min(layer, map.sources.length - 1);
    // Nothing is there before the first: what changes it (times, the smaller of) would leave nothing, so it is put in its place.
    const replace = (label: string, sources: WeightSource[]) => void editProp(prop.id, label, { [path]: sources.map((s, k) => (k === 0 && s !== map.sources[0] ? { ...s, operation: 'replace' as const } : s)) });
    const move = (from: number, to: number) => {
        const sources = [...map.sources];
        sources.splice(to, 0, ...sources.splice(from, 1));
        replace('Reorder the sources', sources);
        set({ layer: to });
    };
    if (map.sources.length === 0) return <p className="py-1 text-soft">No source yet. Proximity weighs by how near another prop is; a Front sweeps through.</p>;
    return (
        <ol aria-label="Sources" className="border border-line">
            {map.sources.map((source, k) => {
                const { name, of } = sourceName(source, document, catalogue);
                const operation: Operation = source.operation ?? 'add';
                const on = k === chosen;
                return (
                    <li key={k} className={`flex min-h-[34px] items-center gap-1 border-t border-line pr-1 first:border-t-0 ${on ? 'border-l-[3px] border-l-ink bg-[var(--wash)] pl-0' : 'bg-raised pl-[3px]'}`} onPointerEnter={() => map.sources.length > 1 && tryOut({ layer: k })} onPointerLeave={endTrial}>
                        <DropdownMenu.Root>
                            <DropdownMenu.Trigger aria-label={`${name}: ${OPERATIONS[operation].words}`} title={k === 0 ? 'How it begins' : `How it changes what is there: ${OPERATIONS[operation].words}`} className="figure grid size-[26px] shrink-0 place-items-center text-[14px] hover:bg-paper">{k === 0 && operation === 'add' ? '·' : OPERATIONS[operation].sign}</DropdownMenu.Trigger>
                            <DropdownMenu.Portal>
                                <DropdownMenu.Content align="start" className="z-50 border border-line bg-paper py-1">
                                    {Object.entries(OPERATIONS).map(([id, o]) => (
                                        <DropdownMenu.Item key={id} className="flex cursor-default gap-2 px-3 py-1 outline-none data-[highlighted]:bg-[var(--wash)]" onSelect={() => void editProp(prop.id, `${name}: ${o.words}`, { [`${path}/${k}/operation`]: id })}>
                                            <span className="figure w-4 text-center">{o.sign}</span>
                                            {o.words}
                                        </DropdownMenu.Item>
                                    ))}
                                </DropdownMenu.Content>
                            </DropdownMenu.Portal>
                        </DropdownMenu.Root>
                        <button type="button" aria-pressed={on} className="min-w-0 flex-1 truncate text-left" onClick={() => set({ layer: k })}>
                            <span className="font-medium">{source.invert ? `not ${name.toLowerCase()}` : name}</span> <span className="text-soft">{of}</span>
                        </button>
                        {on ? (
                            <span className="flex items-center text-soft">
                                {k > 0 && <Small label={`Move ${name} up`} onClick={() => move(k, k - 1)}><ChevronUp size={14} aria-hidden /></Small>}
                                {k < map.sources.length - 1 && <Small label={`Move ${name} down`} onClick={() => move(k, k + 1)}><ChevronDown size={14} aria-hidden /></Small>}
                                <Small label={`Copy ${name}`} onClick={() => replace(`Copy ${name}`, [...map.sources.slice(0, k + 1), source, ...map.sources.slice(k + 1)])}><Copy size={13} aria-hidden /></Small>
                                <Small label={`Remove ${name}`} onClick={() => { endTrial(); replace(`Remove ${name}`, map.sources.filter((_, i) => i !== k)); }}><Trash2 size={13} aria-hidden /></Small>
                            </span>
                        ) : (
                            <span className="figure pr-1.5 text-[12px] text-soft">{isKeyed(source.amount) ? '◆' : (source.amount ?? 1).toFixed(2)}</span>
                        )}
                    </li>
                );
            })}
            <li className="border-t border-line bg-raised px-2.5"><KeyedNumber lane={`${prop.id}:weights/${mapAt}/sources/${chosen}/amount`} option={AMOUNT} words="Amount" label={`Amount of ${sourceName(map.sources[chosen]!, document, catalogue).name.toLowerCase()}`} step={0.05} /></li>
        </ol>
    );
}

function Small({ label, onClick, children }: { label: string; onClick: () => void; children: React.ReactNode }) {
    return <button type="button" aria-label={label} title={label} onClick={onClick} className="grid size-[22px] place-items-center hover:text-ink">{children}</button>;
}
