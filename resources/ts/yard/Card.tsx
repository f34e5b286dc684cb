import { rateInWords } from '../data/time';
import { Copy, Trash2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link } from 'react-router';
import { ProblemError, type ShotCard } from '../data/api';
import type { Reel } from '../picture/Reel';
import { PlaceOf } from './PlaceOf';

/** Milliseconds the pointer rests on a card before it plays: passing over starts nothing. */
const REST = 180;

const BAKED = { done: '● baked', running: '◔ baking', queued: '◔ waiting to be baked', cancelled: '◐ bake cancelled', failed: '✕ bake stopped' };

/** A shot in the list: its picture, which plays its bake while it is pointed at or focused. */
export function Card({ shot, folders, onCopy, onRemove }: { shot: ShotCard; folders: readonly string[]; onCopy: () => void; onRemove: () => void }) {
    const [near, setNear] = useState(false);
    const { bake } = shot;
    const open = bake?.state === 'running' || bake?.state === 'queued';
    return (
        <li className="corner quick group bg-paper hover:bg-raised" onPointerEnter={() => setNear(true)} onPointerLeave={() => setNear(false)}>
            <Link to={`/shots/${shot.id}`} className="block" onFocus={() => setNear(true)} onBlur={() => setNear(false)}>
                <div className="relative aspect-[16/10] overflow-hidden bg-[var(--wash)]">
                    {shot.picture === null ? (
                        <div className="grid h-full place-items-center px-6 text-center text-soft"><span>{shot.props.length === 0 ? 'Empty: bring in a prop' : shot.props.join(' · ')}</span></div>
                    ) : (
                        <img src={`api/shots/${shot.id}/picture?at=${shot.picture}`} alt="" className="size-full object-cover" />
                    )}
                    {near && bake?.state === 'done' && <Playing shot={shot} />}
                    {open && (
                        <div className="absolute inset-x-0 bottom-0 h-[6px] bg-line" role="progressbar" aria-label={`Bake of ${shot.name}`} aria-valuemin={0} aria-valuemax={100} aria-valuenow={Math.round(100 * bake.share)}>
                            <div className="h-full bg-fine" style={{ width: `${100 * bake.share}%` }} />
                        </div>
                    )}
                </div>
                <div className="px-3.5 pt-2.5">
                    <h2 className="truncate text-[15px] font-bold">{shot.name}</h2>
                    {(shot.folder !== '' || shot.tags.length > 0) && <p className="truncate text-[12px]">{shot.folder !== '' && <span className="font-medium">{shot.folder}</span>}{shot.tags.map((t) => <span key={t} className="ml-1.5 border border-line px-1 text-[11px] text-soft">{t}</span>)}</p>}
                    <p className="figure truncate text-[11px] text-soft">{shot.frames.first}–{shot.frames.last} · {rateInWords(shot.frames.rate)} · {bake ? BAKED[bake.state] : '○ not baked'}{bake?.state === 'running' && ` ${Math.round(100 * bake.share)} %`}</p>
                </div>
            </Link>
            <div className="flex gap-1 px-2.5 pt-1 pb-2.5">
                <button type="button" className="flex items-center gap-1 px-1.5 py-0.5 text-[12px] text-soft hover:text-ink" onClick={onCopy} aria-label={`Duplicate ${shot.name}`}><Copy size={12} aria-hidden /> Duplicate</button>
                <PlaceOf shot={shot} folders={folders} />
                <button type="button" className="flex items-center gap-1 px-1.5 py-0.5 text-[12px] text-soft hover:text-wrong" onClick={onRemove} aria-label={`Delete ${shot.name}`}><Trash2 size={12} aria-hidden /> Delete</button>
            </div>
        </li>
    );
}

function Playing({ shot }: { shot: ShotCard }) {
    const canvas = useRef<HTMLCanvasElement>(null);
    const [frame, setFrame] = useState<number | null>(null);
    useEffect(() => {
        if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) return;
        const control = new AbortController();
        let reel: Reel | null = null;
        const timer = setTimeout(async () => {
            try {
                const { Reel: Kind } = await import('../picture/Reel');
                reel = await Kind.of(canvas.current!, shot.id, shot.bake?.telling ?? null, control.signal);
                if (control.signal.aborted) reel.dispose();
                else reel.play(setFrame);
            } catch (e) {
                if (!control.signal.aborted && !(e instanceof ProblemError)) throw e;
            }
        }, REST);
        return () => {
            clearTimeout(timer);
            control.abort();
            reel?.dispose();
        };
    }, [shot.id, shot.bake?.telling]);
    return <canvas ref={canvas} data-frame={frame ?? undefined} aria-hidden className={`absolute inset-0 size-full ${frame === null ? 'opacity-0' : ''}`} />;
}
