import { useQuery } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import { Redo2, Search, Undo2 } from 'lucide-react';
import { Link } from 'react-router';
import { api, type Finding } from '../data/api';
import { staleFrom, useBake } from '../data/bake';
import { usePieces } from '../data/pieces';
import { useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { Button } from '../parts/controls';
import { Logo } from '../parts/Logo';
import { HistoryPlate } from './HistoryPlate';
import { plate, ThemeButton } from './ThemeButton';

export function Bar() {
    const shot = useShot((s) => s.shot);
    const saving = useShot((s) => s.saving > 0);
    return (
        <header className="flex items-center gap-3 bg-bar px-3.5 text-[#f6f4ef]">
            <Link to="/" className="outline-offset-4"><Logo /></Link>
            <Link to="/" className="text-[#b9bdbb] hover:text-white">Yard ▸</Link>
            {shot && <h1 className="contents"><ShotName /></h1>}
            {shot && (
                <div className="flex items-center">
                    <button type="button" aria-label="Undo" title={shot.undo ? `Undo: ${shot.undo}` : 'Nothing to undo'} disabled={!shot.undo} onClick={() => void useShot.getState().undo()} className="p-1.5 disabled:opacity-35"><Undo2 size={16} /></button>
                    <button type="button" aria-label="Redo" title={shot.redo ? `Redo: ${shot.redo}` : 'Nothing to redo'} disabled={!shot.redo} onClick={() => void useShot.getState().redo()} className="p-1.5 disabled:opacity-35"><Redo2 size={16} /></button>
                    <HistoryPlate id={shot.id} revision={shot.revision} />
                    <span className="ml-1 text-[12px] text-[#b9bdbb]" role="status">{saving ? 'saving…' : 'saved'}</span>
                </div>
            )}
            <span className="flex-1" />
            {shot && <SiteCheck id={shot.id} revision={shot.revision} />}
            {shot && <BakePlate />}
            {shot && (
                <button type="button" className={plate} onClick={() => window.dispatchEvent(new Event('yard-find'))}>
                    <Search size={13} aria-hidden /> Find <span className="figure text-[11px] text-[#b9bdbb]">Ctrl K</span>
                </button>
            )}
            <ThemeButton />
        </header>
    );
}

/** The name of the shot, which opens what belongs to it as a whole. */
function ShotName() {
    const name = useShot((s) => s.shot?.document.name ?? '');
    const on = useUi((s) => s.stage === 'shot');
    return (
        <button type="button" aria-pressed={on} title="Its frames, camera, plate, gravity and ground (0)" onClick={() => useUi.getState().set({ stage: 'shot' })} className={`max-w-[300px] truncate border-b font-semibold hover:border-[#565d61] ${on ? 'border-[#f6f4ef]' : 'border-transparent'}`}>
            {name}
        </button>
    );
}

function SiteCheck({ id, revision }: { id: string; revision: number }) {
    // What is said of pieces is known once they are made.
    const made = usePieces((s) => Object.values(s.byProp).map((p) => (p.first ? '' : p.tag)).join(' '));
    // One question for all of them, not one a prop as they come.
    const coming = usePieces((s) => Object.values(s.working).some((share) => share != null));
    const { data } = useQuery({ queryKey: ['check', id, revision, made], queryFn: () => api.check(id), placeholderData: (previous) => previous, enabled: !coming });
    const n = data?.length ?? 0;
    return (
        <Popover.Root>
            <Popover.Trigger className={plate}>{data === undefined ? 'Site check …' : n === 0 ? 'Site check · fine' : `Site check · ${n} to look at`}</Popover.Trigger>
            <Popover.Portal>
                <Popover.Content sideOffset={6} align="end" className="z-50 max-h-96 w-[360px] overflow-auto border border-line bg-paper p-3 text-ink">
                    {n === 0 ? (
                        <p className="text-fine">● Nothing stands in the way of a bake.</p>
                    ) : (
                        <ul className="space-y-2.5">
                            {data!.map((f, i) => (
                                <FindingOf key={i} of={f} />
                            ))}
                        </ul>
                    )}
                </Popover.Content>
            </Popover.Portal>
        </Popover.Root>
    );
}

/** A thing to look at: a press goes there, and picks the pieces it is about; what mends it stands below. */
function FindingOf({ of: f }: { of: Finding }) {
    return (
        <li>
            <button type="button" className="text-left" onClick={() => f.prop && useUi.getState().set({ chosen: f.prop, picked: f.pieces ?? [], stage: f.path.includes('weights') ? 'weights' : f.path.includes('motion') || f.path.includes('place') ? 'motion' : f.path.includes('.break') ? 'break' : 'props' })}>
                <p className={f.level === 'wrong' ? 'text-wrong' : 'text-doubt'}>{f.level === 'wrong' ? '✕' : '▲'} {f.message}</p>
                <p className="text-soft">{f.remedy}</p>
            </button>
            {f.mends !== undefined && f.mends.length > 0 && (
                <div className="mt-1 flex flex-wrap gap-1.5">
                    {f.mends.map((mend) => <Button key={mend.label} onClick={() => void useShot.getState().edit(mend.label, mend.patch)}>{mend.label}</Button>)}
                </div>
            )}
        </li>
    );
}

function BakePlate() {
    const bake = useBake((s) => s.bake);
    const go = () => useUi.getState().set({ stage: 'bake' });
    const amber = 'border-[#8a6a20] text-[#f0b429]';
    if (bake === null) return <button type="button" className={plate} onClick={go}>○ not baked</button>;
    if (bake.state === 'running' || bake.state === 'queued') {
        return <button type="button" className={plate} onClick={go}>◔ baking {Math.max(0, bake.first + bake.framesDone - 1)} of {bake.last}</button>;
    }
    if (bake.state === 'failed') return <button type="button" className={`${plate} border-[#a63a25] text-[#f0a08f]`} onClick={go}>✕ bake stopped</button>;
    const stale = staleFrom(bake);
    if (stale !== null) return <button type="button" className={`${plate} ${amber}`} onClick={go}>{stale > bake.first ? `◐ true up to frame ${stale - 1}` : '◐ out of date'}</button>;
    if (bake.state === 'cancelled') return <button type="button" className={`${plate} ${amber}`} onClick={go}>◐ cancelled at {bake.first + bake.framesDone - 1}</button>;
    return <button type="button" className={plate} onClick={go}><span className="text-[#5cc49f]">●</span> baked</button>;
}
