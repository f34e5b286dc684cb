import { MoreVertical } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import type { Catalogue } from '../../data/api';
import type { Prop, WeightMap } from '../../data/document';
import { editProp, useDocument } from '../../data/shot';
import { useUi } from '../../data/ui';
import { freeMapId, freeMapName } from '../../data/weights';
import { AddMenu } from '../../parts/AddMenu';

/** The maps of a prop, one beside the other. */
export function MapTabs({ prop, map, mapAt, catalogue, onBegin }: { prop: Prop; map: WeightMap; mapAt: number; catalogue: Catalogue; onBegin: (source: string) => void }) {
    const document = useDocument()!;
    const set = useUi((s) => s.set);
    const [naming, setNaming] = useState(false);
    const copy = () => {
        const name = freeMapName(document, map.name);
        const id = freeMapId(document, name);
        void editProp(prop.id, `Copy the map ${map.name}`, { '/weights': [...prop.weights!, { ...map, id, name }] });
        set({ map: id, layer: 0 });
    };
    const remove = () => void editProp(prop.id, `Remove the map ${map.name}`, { '/weights': prop.weights!.filter((m) => m.id !== map.id) });
    return (
        <div className="flex flex-wrap items-center gap-1.5 border-t border-line px-4 py-2.5">
            {prop.weights!.map((m) => (m.id === map.id && naming ? (
                <input key={m.id} autoFocus aria-label="Name of the map" defaultValue={m.name} maxLength={60} className="h-[27px] w-[130px] border border-ink bg-raised px-2" onKeyDown={(e) => { e.stopPropagation(); if (e.key === 'Enter') e.currentTarget.blur(); if (e.key === 'Escape') setNaming(false); }} onBlur={(e) => { setNaming(false); const name = e.target.value.trim(); if (name !== '' && name !== m.name) void editProp(prop.id, `Call it ${name}`, { [`/weights/${mapAt}/name`]: name }); }} />
            ) : (
                <button key={m.id} type="button" aria-pressed={m.id === map.id} className={`quick h-[27px] max-w-[150px] truncate border px-2.5 ${m.id === map.id ? 'border-chosen bg-chosen text-on-chosen' : 'border-line bg-raised hover:border-ink'}`} onClick={() => set({ map: m.id, layer: 0 })} onDoubleClick={() => setNaming(true)} title={m.id === map.id ? 'Double-click to name it' : undefined}>{m.name}</button>
            )))}
            <AddMenu label="map" entries={catalogue.weights} onAdd={onBegin} />
            <span className="flex-1" />
            <DropdownMenu.Root>
                <DropdownMenu.Trigger aria-label={`More about the map ${map.name}`} className="grid size-[24px] place-items-center text-soft hover:text-ink"><MoreVertical size={15} aria-hidden /></DropdownMenu.Trigger>
                <DropdownMenu.Portal>
                    <DropdownMenu.Content align="end" className="z-50 border border-line bg-paper py-1">
                        {([['Name it', () => setNaming(true)], ['Copy it', copy], ['Remove it', remove]] as const).map(([words, run]) => (
                            <DropdownMenu.Item key={words} className="cursor-default px-3 py-1 outline-none data-[highlighted]:bg-[var(--wash)]" onSelect={() => setTimeout(run)}>{words}</DropdownMenu.Item>
                        ))}
                    </DropdownMenu.Content>
                </DropdownMenu.Portal>
            </DropdownMenu.Root>
        </div>
    );
}
