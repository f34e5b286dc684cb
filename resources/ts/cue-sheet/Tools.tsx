import { Popover } from 'radix-ui';
import { useState } from 'react';
import { addCue } from '../data/cues';
import { addNote, useNotes } from '../data/notes';
import { copyKeys, mirrorKeys, moved, pasteKeys, readKey, removeKeys, reverseKeys, scaleKeys, shiftKeys, tieKeys } from '../data/keys';
import { useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Toggle } from '../parts/controls';
import { allKeys } from './allKeys';
import { EaseMenu } from './EaseMenu';
import { plate } from './plate';

/** What lanes are shown, and what can be done with the picked keys. */
export function Tools() {
    const { keys, lanes, drawer, frame, cut, stretch, set } = useUi();
    const some = keys.length > 0;
    return (
        <div role="toolbar" aria-label="Keys and cues" className="flex min-w-0 items-center gap-1 overflow-x-auto overflow-y-hidden border-b border-line px-2">
            <button type="button" className={plate} data-on={!lanes.keyed || undefined} aria-pressed={!lanes.keyed} title="Show also what has no keys yet" onClick={() => set({ lanes: { ...lanes, keyed: !lanes.keyed } })}>All lanes</button>
            <input aria-label="Search lanes" placeholder="Search" value={lanes.search} onChange={(e) => set({ lanes: { ...lanes, search: e.target.value } })} onKeyDown={(e) => e.stopPropagation()} className="h-[22px] w-[74px] shrink-0 border border-line bg-raised px-1.5 text-[12px]" />
            <button type="button" className={plate} data-on={drawer || undefined} aria-pressed={drawer} title="Curves of the chosen lane" onClick={() => set({ drawer: !drawer })}>Curves</button>
            {stretch !== null && <button type="button" className={plate} title="Show the whole shot again (Ctrl and the wheel show less of it)" onClick={() => set({ stretch: null })}>Fit</button>}
            <button type="button" className={plate} title="A named moment at the playhead that keys and releases can hang on" onClick={() => addCue(frame)}>+ Cue</button>
            <NoteButton />
            <span className="mx-1 h-[16px] w-px shrink-0 bg-line" />
            <button type="button" className={plate} title="Pick all keys from the playhead on (Ctrl Shift A)" onClick={() => set({ keys: allKeys(frame).map((k) => k.name) })}>From here on</button>
            {some && (
                <>
                    <span className="figure shrink-0 px-1 text-[11px] text-soft" role="status">{keys.length === 1 ? `frame ${readKey(keys[0]!).frame}` : `${keys.length} picked`}</span>
                    <EaseMenu />
                    <Shift by={-5} /><Shift by={-1} /><Shift by={1} /><Shift by={5} />
                    <button type="button" className={plate} disabled={keys.length < 2} title="Twice as long, from the first of them" onClick={() => scaled(keys, 2)}>×2</button>
                    <button type="button" className={plate} disabled={keys.length < 2} title="Half as long" onClick={() => scaled(keys, 0.5)}>×½</button>
                    <button type="button" className={plate} disabled={keys.length < 2} title="The other way round in time" onClick={() => reverseKeys(keys)}>Reverse</button>
                    <button type="button" className={plate} disabled={keys.length < 2} title="The other way up" onClick={() => mirrorKeys(keys)}>Mirror</button>
                    <Tie />
                    <button type="button" className={plate} title="Ctrl C" onClick={() => set({ cut: copyKeys(keys) })}>Copy</button>
                    <button type="button" className={plate} title="Delete" onClick={() => { removeKeys(keys); set({ keys: [] }); }}>Remove</button>
                </>
            )}
            {cut.length > 0 && <button type="button" className={plate} title="At the playhead; onto the chosen prop where they came from one (Ctrl V)" onClick={() => set({ keys: pasteKeys(cut, frame, useUi.getState().chosen) })}>Paste</button>}
        </div>
    );
}

function scaled(keys: readonly string[], factor: number): void {
    const pivot = Math.min(...keys.map((k) => readKey(k).frame));
    if (scaleKeys(keys, factor)) useUi.getState().set({ keys: keys.map((k) => moved(k, Math.round(pivot + (readKey(k).frame - pivot) * factor) - readKey(k).frame)) });
}

function Shift({ by }: { by: number }) {
    const { keys, set } = useUi();
    return <button type="button" className={plate} aria-label={`Shift by ${by} frames`} title={`Shift by ${by > 0 ? '+' : '−'}${Math.abs(by)} frames`} onClick={() => shiftKeys(keys, by, false) && set({ keys: keys.map((k) => moved(k, by)) })}>{by > 0 ? '+' : '−'}{Math.abs(by)}</button>;
}

/** Ties the picked keys to a cue, or unties them. */
function Tie() {
    const keys = useUi((s) => s.keys);
    const cues = useDocument()?.cues ?? [];
    if (cues.length === 0) return null;
    return (
        <select aria-label="Tie to a cue" value="" className={plate} onChange={(e) => tieKeys(keys, e.target.value === '-' ? null : e.target.value)}>
            <option value="" disabled>Tie to…</option>
            {cues.map((c) => <option key={c.id} value={c.id}>{c.name}</option>)}
            <option value="-">no cue</option>
        </select>
    );
}

function NoteButton() {
    const frame = useUi((s) => s.frame);
    const chosen = useUi((s) => s.chosen);
    const prop = useDocument()?.props.find((p) => p.id === chosen);
    const { drawing, lines } = useNotes();
    const [on, setOn] = useState(false);
    return (
        <Popover.Root onOpenChange={(open) => !open && useNotes.setState({ drawing: false, lines: [] })}>
            <Popover.Trigger className={plate} title="A few words at the playhead">+ Note</Popover.Trigger>
            <Popover.Portal>
                <Popover.Content side="top" align="start" sideOffset={6} onInteractOutside={(e) => drawing && e.preventDefault()} aria-label="A note" className="z-50 w-[290px] border border-line bg-paper p-3">
                    <form onSubmit={(e) => { e.preventDefault(); addNote(frame, String(new FormData(e.currentTarget).get('text') ?? ''), on && prop ? prop.id : null); e.currentTarget.reset(); }}>
                        <input name="text" aria-label={`Note at frame ${frame}`} placeholder={`At frame ${frame}`} maxLength={500} className="h-[27px] w-full border border-line bg-raised px-2" onKeyDown={(e) => e.stopPropagation()} />
                        {prop && <Toggle label={`On ${prop.name}`} value={on} onChange={setOn} />}
                        <div className="mt-1 flex gap-1.5">
                            <Button aria-pressed={drawing} tone={drawing ? 'dark' : 'plain'} onClick={() => useNotes.setState({ drawing: !drawing })}>{lines.length === 0 ? 'Draw a mark' : `${lines.length} drawn`}</Button>
                            {lines.length > 0 && <Button onClick={() => useNotes.setState({ lines: [] })}>Clear</Button>}
                            <span className="flex-1" />
                            <Button type="submit">Keep</Button>
                        </div>
                        {drawing && <p className="mt-1 text-soft">Draw in the picture; it stays where it is drawn.</p>}
                    </form>
                </Popover.Content>
            </Popover.Portal>
        </Popover.Root>
    );
}
