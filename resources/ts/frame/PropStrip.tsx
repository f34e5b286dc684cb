import { Eye, EyeOff, Plus } from 'lucide-react';
import { Fragment, useState } from 'react';
import type { Prop } from '../data/document';
import { chooseGroup, standsOf } from '../data/groups';
import { usePieces } from '../data/pieces';
import { layPreset } from '../data/presets';
import { editProp, useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { PropFace } from '../parts/PropFace';

export function PropStrip() {
    const document = useDocument();
    const chosen = useUi((s) => s.chosen);
    const also = useUi((s) => s.also);
    const set = useUi((s) => s.set);
    const [folded, setFolded] = useState<readonly string[]>([]);
    return (
        <ul aria-label="Props" data-over="top" className="absolute top-2.5 right-2.5 left-2.5 flex flex-wrap gap-1.5">
            {standsOf(document?.props ?? []).map(({ group, props }) => (
                <Fragment key={group === null ? props[0]!.id : `group ${group}`}>
                    {group !== null && <GroupChip name={group} props={props} folded={folded.includes(group)} chosen={props.every((p) => p.hidden || p.id === chosen || also.includes(p.id))} onFold={(f) => setFolded(f ? [...folded, group] : folded.filter((g) => g !== group))} />}
                    {(group === null || !folded.includes(group)) && props.map((p) => <Chip key={p.id} prop={p} chosen={p.id === chosen} also={also.includes(p.id)} />)}
                </Fragment>
            ))}
            <li>
                <button type="button" aria-label="Add a prop" title="Add a prop" onClick={() => set({ stage: 'props', chosen: null })} className="quick grid h-[42px] w-9 place-items-center border border-line bg-paper hover:border-ink">
                    <Plus size={15} />
                </button>
            </li>
        </ul>
    );
}

/** A group as one chip: a press chooses all of it; folded, its props have no chips of their own. */
function GroupChip({ name, props, folded, chosen, onFold }: { name: string; props: readonly Prop[]; folded: boolean; chosen: boolean; onFold: (folded: boolean) => void }) {
    return (
        <li className={`flex items-center border bg-paper ${chosen ? 'border-ink outline-1 outline-ink' : 'border-line'}`}>
            <button type="button" aria-expanded={!folded} aria-label={`${folded ? 'Unfold' : 'Fold'} the group ${name}`} onClick={() => onFold(!folded)} className="h-[40px] pr-1 pl-2 text-soft hover:text-ink">{folded ? '▸' : '▾'}</button>
            <button type="button" aria-pressed={chosen} title="Chooses all of them" onClick={() => chooseGroup(props)} className="h-[40px] pr-2.5 pl-1 text-left">
                <span className="block leading-4 font-semibold">{name}</span>
                <span className="figure block text-[11px] leading-4 text-soft">{props.length} props</span>
            </button>
        </li>
    );
}

/** Chooses one more, or one less. */
function together(id: string): void {
    const { chosen, also, set } = useUi.getState();
    if (chosen === null) set({ chosen: id, lit: [], picked: [] });
    else if (id !== chosen) set({ also: also.includes(id) ? also.filter((a) => a !== id) : [...also, id] });
    else if (also.length > 0) set({ chosen: also[0]!, also: also.slice(1), lit: [], picked: [] });
}

function Chip({ prop, chosen, also }: { prop: Prop; chosen: boolean; also: boolean }) {
    const pieces = usePieces((s) => s.byProp[prop.id]);
    const problem = usePieces((s) => s.problems[prop.id]);
    const working = usePieces((s) => s.working[prop.id]);
    const set = useUi((s) => s.set);
    const count = pieces?.pieces.length ?? 0;
    const state = prop.hidden ? 'hidden' : problem ? (problem.kind === 'mesh' || problem.path.includes('prepare') || problem.path.includes('source') ? '✕ see Props' : '✕ see Break') : `${working != null ? '… ' : ''}${count > 1 ? `${count} shards · ` : ''}${prop.motion.kind}`;
    return (
        <li onDragOver={(e) => e.dataTransfer.types.includes('application/x-yard-preset') && e.preventDefault()} onDrop={(e) => { const preset = e.dataTransfer.getData('application/x-yard-preset'); if (preset !== '') { e.preventDefault(); void layPreset(preset, [prop.id]); } }} className={`flex items-center border bg-paper ${chosen ? 'border-ink outline-1 outline-ink' : also ? 'border-ink outline-1 outline-dashed outline-ink' : 'border-line'}`}>
            <button type="button" aria-pressed={chosen || also} title="Shift or Ctrl: choose it together with others" onClick={(e) => (e.shiftKey || e.ctrlKey || e.metaKey ? together(prop.id) : set({ chosen: prop.id, lit: [], picked: [] }))} className="flex h-[40px] items-center gap-2 pr-1.5 pl-1.5 text-left">
                <PropFace pieces={pieces} colour={prop.material.colour} />
                <span>
                    <span className="block leading-4 font-semibold">{prop.name}</span>
                    <span className={`figure block text-[11px] leading-4 ${problem ? 'text-wrong' : 'text-soft'}`}>{state}</span>
                </span>
            </button>
            <button type="button" aria-label={prop.hidden ? `Show ${prop.name}` : `Hide ${prop.name}`} title={prop.hidden ? 'Left out of picture and bake' : 'Leave out of picture and bake'} onClick={() => void editProp(prop.id, prop.hidden ? 'Show a prop' : 'Hide a prop', { '/hidden': !prop.hidden })} className="p-1.5 text-soft hover:text-ink">
                {prop.hidden ? <EyeOff size={13} /> : <Eye size={13} />}
            </button>
        </li>
    );
}
