import { Popover } from 'radix-ui';
import { useState } from 'react';
import { otherPieces, piecesByMap, piecesByName, piecesBySize } from '../data/pickPieces';
import { usePieces } from '../data/pieces';
import { said } from '../data/said';
import { useShot } from '../data/shot';
import { isPicking, useUi } from '../data/ui';
import { useChosen } from '../data/useChosen';
import { Button } from '../parts/controls';

/** Picks pieces of the chosen prop by what they are called, how large they are, what a map says, or all but those. */
export function PickPieces() {
    const prop = useChosen();
    const { picked, stage, set } = useUi();
    const pieces = usePieces((s) => (prop === null ? undefined : s.byProp[prop.id]));
    if (prop === null || pieces === undefined || pieces.first || pieces.pieces.length < 2 || !isPicking(stage)) return null;
    const all = pieces.pieces;
    const pick = (these: readonly number[]) => set({ picked: these });
    return (
        <Popover.Root>
            <Popover.Trigger className="quick h-[29px] border border-line bg-raised px-2.5 hover:border-ink" title="Click pieces in the picture, Shift for more, Ctrl and drag for a box; or pick them here">
                {picked.length === 0 ? 'Pick pieces' : `${picked.length} picked`}
            </Popover.Trigger>
            <Popover.Portal>
                <Popover.Content side="top" sideOffset={6} align="start" aria-label="Pick pieces" className="z-50 w-[300px] border border-line bg-paper p-3 text-ink">
                    <div className="flex gap-1.5">
                        <Button onClick={() => pick(all.map((_, k) => k))}>All {all.length.toLocaleString('en')}</Button>
                        <Button onClick={() => pick(otherPieces(all.length, picked))}>All others</Button>
                        <Button disabled={picked.length === 0} onClick={() => pick([])}>None</Button>
                    </div>
                    <ByName onPick={(words) => pick(piecesByName(all, words))} />
                    <BySize most={all.length} onPick={(which, count) => pick(piecesBySize(all, which, count))} />
                    {(prop.weights ?? []).length > 0 && <ByMap maps={prop.weights!} onPick={pick} />}
                    <p className="mt-2 text-soft">In the picture: click, Shift for more, Ctrl and drag for a box.</p>
                </Popover.Content>
            </Popover.Portal>
        </Popover.Root>
    );
}

function ByName({ onPick }: { onPick: (words: string) => void }) {
    const [words, setWords] = useState('');
    return (
        <form className="mt-2 flex items-center gap-1.5" onSubmit={(e) => { e.preventDefault(); onPick(words); }}>
            <input aria-label="Pieces called" placeholder="called: rim, *-1*" value={words} onChange={(e) => setWords(e.target.value)} onKeyDown={(e) => e.stopPropagation()} className="h-[28px] min-w-0 flex-1 border border-line bg-raised px-2" />
            <Button type="submit" disabled={words.trim() === ''}>By name</Button>
        </form>
    );
}

function BySize({ most, onPick }: { most: number; onPick: (which: 'larger' | 'smaller', count: number) => void }) {
    const [count, setCount] = useState(Math.max(1, Math.round(most / 10)));
    return (
        <div className="mt-2 flex items-center gap-1.5">
            <span>The</span>
            <input type="number" aria-label="How many by size" min={1} max={most} value={count} onChange={(e) => setCount(Math.max(1, Math.min(most, Math.round(Number(e.target.value)) || 1)))} onKeyDown={(e) => e.stopPropagation()} className="figure h-[28px] w-[76px] border border-line bg-raised px-2" />
            <Button onClick={() => onPick('larger', count)}>largest</Button>
            <Button onClick={() => onPick('smaller', count)}>smallest</Button>
        </div>
    );
}

function ByMap({ maps, onPick }: { maps: readonly { id: string; name: string }[]; onPick: (pieces: number[]) => void }) {
    const [map, setMap] = useState(maps[0]!.id);
    const [least, setLeast] = useState(50);
    const frame = useUi((s) => s.frame);
    const shot = useShot((s) => s.shot!.id);
    const pick = async () => {
        try {
            onPick(await piecesByMap(shot, map, frame, least / 100));
        } catch (e) {
            said(e);
        }
    };
    return (
        <div className="mt-2 flex items-center gap-1.5" title="At the playhead">
            <select aria-label="Pieces by map" value={map} onChange={(e) => setMap(e.target.value)} className="h-[28px] min-w-0 flex-1 border border-line bg-raised px-1.5">
                {maps.map((m) => <option key={m.id} value={m.id}>{m.name}</option>)}
            </select>
            <span>≥</span>
            <input type="number" aria-label="Least of the map, per cent" min={0} max={100} value={least} onChange={(e) => setLeast(Number(e.target.value))} onKeyDown={(e) => e.stopPropagation()} className="figure h-[28px] w-[58px] border border-line bg-raised px-2" />
            <span>%</span>
            <Button onClick={() => void pick()}>By map</Button>
        </div>
    );
}
