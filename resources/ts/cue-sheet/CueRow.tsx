import { Popover } from 'radix-ui';
import { useState } from 'react';
import { useBake } from '../data/bake';
import { editCue, removeCue, tiedTo } from '../data/cues';
import type { Cue, ShotDocument } from '../data/document';
import { goToNote, removeNote, type Note as NoteOf } from '../data/notes';
import type { Moments } from '../data/track';
import { useUi } from '../data/ui';
import { allMaps } from '../data/weights';
import { Button, Choice, Select } from '../parts/controls';
import { followPointer } from '../parts/drag';
import { NumberField } from '../parts/NumberField';
import { ROW, type Scale } from './scale';

/** Named cues and notes, each a flag: dragged it takes all along that hangs on it, clicked it is set. */
export function CueRow({ document, moments, scale }: { document: ShotDocument; moments: Moments; scale: Scale }) {
    return (
        <div className="relative" style={{ height: ROW }}>
            {(document.notes ?? []).map((note, k) => <Note key={`n${k}`} note={note} at={scale.x(note.frame)} number={k} />)}
            {(document.cues ?? []).map((cue, k) => {
                const at = moments.frames[cue.id] ?? null;
                // Where the next one comes soon, the flag hangs to the other side of its line.
                const crowded = at !== null && Object.values(moments.frames).some((o) => o !== null && o > at && scale.x(o) - scale.x(at) < flagTakes(cue.name));
                return <Flag key={cue.id} cue={cue} document={document} at={at} waiting={k} back={crowded && scale.x(at) > flagTakes(cue.name)} scale={scale} />;
            })}
        </div>
    );
}

/** Pixels a flag takes, about. */
function flagTakes(name: string): number {
    return Math.min(140, 14 + 6.4 * name.length);
}

function Flag({ cue, document, at, waiting, back, scale }: { cue: Cue; document: ShotDocument; at: number | null; waiting: number; back: boolean; scale: Scale }) {
    const set = useUi((s) => s.set);
    const [open, setOpen] = useState(false);
    const down = (e: React.PointerEvent) => {
        if (cue.at.on !== 'frame' || e.button !== 0) return;
        const from = cue.at.frame;
        let by = 0;
        followPointer(
            (m) => {
                by = scale.framesIn(m.clientX - e.clientX);
                set({ cueShift: { id: cue.id, by } });
            },
            () => {
                set({ cueShift: null });
                if (by !== 0) void editCue(cue.id, `Move the cue ${cue.name} by ${by} frames`, { at: { on: 'frame', frame: from + by } });
            },
        );
    };
    return (
        <Popover.Root open={open} onOpenChange={setOpen}>
            <Popover.Trigger
                aria-label={`Cue ${cue.name}${at === null ? ', not anchored yet' : ` at frame ${Number(at.toFixed(2))}`}`}
                title={at === null ? 'Not anchored yet: the bake finds it' : 'Drag to move it and all that hangs on it'}
                onPointerDown={down}
                className={`absolute top-[3px] h-[18px] max-w-[140px] truncate border border-[var(--wrong)] px-1.5 text-[11px] font-semibold ${at === null ? 'bg-paper text-wrong' : 'cursor-ew-resize bg-[#b5422b] text-white'}`}
                style={at === null ? { right: 8 + 96 * waiting } : { left: scale.x(at), transform: back ? 'translateX(-100%)' : undefined }}
            >
                {cue.name}{at === null && ' ?'}
            </Popover.Trigger>
            <Popover.Portal>
                <Popover.Content side="top" align="start" sideOffset={6} className="z-50 w-[330px] border border-line bg-paper p-3">
                    <CueForm cue={cue} document={document} at={at} />
                </Popover.Content>
            </Popover.Portal>
        </Popover.Root>
    );
}

function CueForm({ cue, document, at }: { cue: Cue; document: ShotDocument; at: number | null }) {
    const hangs = tiedTo(document, cue.id).length;
    const baked = useBake((s) => s.bake?.state === 'done');
    const props = document.props.map((p) => ({ value: p.id, label: p.name }));
    const on = cue.at;
    const maps = allMaps(document).map(({ prop, map }) => ({ value: map.id, label: `${map.name} (${prop.name})` }));
    const turn = (kind: Cue['at']['on']) => {
        if (kind === 'frame') void editCue(cue.id, `${cue.name} at a frame`, { at: { on: 'frame', frame: Math.round(at ?? useUi.getState().frame) } });
        else if (kind === 'reaching') void editCue(cue.id, `${cue.name} at a share of a map`, { at: { on: 'reaching', map: maps[0]!.value, share: 0.5 } });
        else if (props.length > 0) void editCue(cue.id, `${cue.name} at a touch`, { at: { on: 'touch', one: props[0]!.value, other: props[1]?.value ?? 'ground', speed: 0 } });
    };
    return (
        <>
            <input aria-label="Name of the cue" defaultValue={cue.name} maxLength={60} className="mb-2 h-[27px] w-full border border-line bg-raised px-2 font-semibold" onKeyDown={(e) => { e.stopPropagation(); if (e.key === 'Enter') e.currentTarget.blur(); }} onBlur={(e) => e.target.value.trim() !== '' && e.target.value !== cue.name && void editCue(cue.id, 'Rename a cue', { name: e.target.value.trim() })} />
            <Choice fill label="The cue is" value={on.on} options={[{ value: 'frame' as const, label: 'a frame' }, { value: 'touch' as const, label: 'a first touch' }, ...(maps.length > 0 ? [{ value: 'reaching' as const, label: 'a map’s reach', hint: 'When so much of a prop has reached half of a weight map' }] : [])]} onChange={turn} />
            {on.on === 'frame' ? (
                <NumberField label="Frame" value={on.frame} least={-100000} most={200000} onChange={(frame) => void editCue(cue.id, `Move the cue ${cue.name}`, { at: { on: 'frame', frame } })} />
            ) : on.on === 'reaching' ? (
                <>
                    <Select label="Map" value={on.map} options={maps} onChange={(map) => void editCue(cue.id, `Map of the cue ${cue.name}`, { at: { ...on, map } })} />
                    <NumberField slider label="Has reached" hint="Half of the map, at so much of the prop" unit="%" least={0.01} most={1} value={on.share} onChange={(share) => void editCue(cue.id, `Share of the cue ${cue.name}`, { at: { ...on, share } })} />
                    <p className={`mt-1 ${at === null && baked ? 'text-doubt' : 'text-soft'}`}>{at !== null ? `Reached at frame ${Number(at.toFixed(2))}.` : baked ? '▲ The map never reaches so much; what hangs on it holds.' : 'Where it is shows when the bake gets there.'}</p>
                </>
            ) : (
                <>
                    <Select label="Of" value={on.one} options={props} onChange={(one) => void editCue(cue.id, `Touch of the cue ${cue.name}`, { at: { ...on, one } })} />
                    <Select label="And" value={on.other} options={[...props, { value: 'ground', label: 'the ground' }]} onChange={(other) => void editCue(cue.id, `Touch of the cue ${cue.name}`, { at: { ...on, other } })} />
                    <NumberField label="Faster than" unit="m/s" least={0} most={10000} value={on.speed ?? 0} onChange={(speed) => void editCue(cue.id, `Speed of the cue ${cue.name}`, { at: { ...on, speed } })} />
                    <p className={`mt-1 ${at === null && baked ? 'text-doubt' : 'text-soft'}`}>{at !== null ? `Found at frame ${Number(at.toFixed(2))}.` : baked ? '▲ The bake found no such touch; what hangs on it holds.' : 'Where it is shows when the bake gets there.'}</p>
                </>
            )}
            <div className="mt-2 flex items-center justify-between">
                <span className="text-soft">{hangs === 0 ? 'Nothing hangs on it.' : hangs === 1 ? '1 key or release hangs on it.' : `${hangs} keys and releases hang on it.`}</span>
                <Button onClick={() => removeCue(cue.id)}>Remove</Button>
            </div>
        </>
    );
}

function Note({ note, at, number }: { note: NoteOf; at: number; number: number }) {
    const { text } = note;
    return (
        <Popover.Root onOpenChange={(open) => open && goToNote(note, number)}>
            <Popover.Trigger aria-label={`Note: ${text}`} title={text} className="absolute top-[5px] h-[15px] max-w-[120px] truncate border-l-2 border-[var(--soft)] bg-[var(--wash)] px-1 text-left text-[11px] text-soft" style={{ left: at }}>{text}</Popover.Trigger>
            <Popover.Portal>
                <Popover.Content side="top" align="start" sideOffset={6} className="z-50 w-[260px] border border-line bg-paper p-3">
                    <p className="mb-2">{text}</p>
                    <Button onClick={() => removeNote(number)}>Remove</Button>
                </Popover.Content>
            </Popover.Portal>
        </Popover.Root>
    );
}
