import { X } from 'lucide-react';
import type { Camera } from '../data/document';
import { showNumber } from '../data/quantity';
import { keyOf, lineUp, setMatches, useLineUp, type Match } from '../data/lineUp';
import { useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Fact, Section } from '../parts/controls';

const NONE: readonly Match[] = [];

/** Matches places of props with where they are on the plate, and finds the camera from them. */
export function LineUp({ camera }: { camera: Camera }) {
    const { lining, view, set } = useUi();
    const props = useDocument()?.props ?? [];
    const matches = camera.matches ?? NONE;
    const { found, of } = useLineUp();
    const now = found !== null && of === keyOf(camera.matches) ? found : null;
    const on = lining !== null;
    const start = (what: typeof lining) => set({ lining: what, ...(view.name === 'camera' ? {} : { view: { name: 'camera', asked: view.asked + 1 } }) });
    return (
        <Section title="Line up" aside={matches.length === 0 ? '' : `${matches.length} matched`}>
            <p className="mb-2 text-soft">Say of places of props where they are on the plate: the camera’s place, turn and lens follow. Six or more, not all at one depth.</p>
            <div className="flex flex-wrap gap-1.5">
                <Button aria-pressed={lining === 'point'} tone={lining === 'point' ? 'dark' : 'plain'} onClick={() => start(lining === 'point' ? 'look' : 'point')} hint="Press on a prop in the picture, then drag the ring to where that is on the plate">Add points</Button>
                <Button aria-pressed={lining === 'line'} tone={lining === 'line' ? 'dark' : 'plain'} onClick={() => start(lining === 'line' ? 'look' : 'line')} hint="Press on both ends of an edge, then drag its rings onto the same edge of the plate, anywhere along it">Add lines</Button>
                {matches.length > 0 && <Button aria-pressed={on} onClick={() => (on ? set({ lining: null }) : start('look'))}>{on ? 'Hide marks' : 'Show marks'}</Button>}
            </div>
            {lining !== null && lining !== 'look' && <p role="status" className="mt-1.5 text-soft">{lining === 'point' ? 'Press on a corner of a prop in the picture.' : 'Press on both ends of an edge.'}</p>}
            {matches.length > 0 && (
                <ul aria-label="Matches" className="mt-2">
                    {matches.map((m, k) => (
                        <li key={k} className="figure flex items-center gap-2 border-b border-dotted border-line text-[12px]">
                            <span className="w-[18px] text-soft">{k + 1}</span>
                            <span className="min-w-0 flex-1 truncate font-sans">{m.to ? 'Line' : 'Point'} of {props.find((p) => p.id === m.prop)?.name ?? 'what is gone'}</span>
                            <span className={now?.left[k] != null && now.left[k]! > 3 * Math.max(0.5, now.residual) ? 'text-doubt' : ''}>{now?.left[k] != null ? `${now.left[k]!.toFixed(2)} px off` : ''}</span>
                            <button type="button" aria-label={`Remove match ${k + 1}`} onClick={() => void setMatches(`Remove match ${k + 1}`, matches.filter((_, j) => j !== k))} className="p-1 text-soft hover:text-ink"><X size={12} /></button>
                        </li>
                    ))}
                </ul>
            )}
            {matches.length > 0 && <Button className="mt-2" tone="loud" onClick={() => void lineUp()}>Line up</Button>}
            {now !== null && (
                <div className="mt-2" role="status">
                    <Fact name="left over" tone={now.residual > 3 ? 'doubt' : undefined}>{now.residual.toFixed(2)} px</Fact>
                    <Fact name="focal length, a pixel off" tone={now.sure === null || now.sure > 0.05 ? 'doubt' : undefined}>{now.sure === null ? 'anything' : `± ${showNumber(100 * now.sure, 2)} %`}</Fact>
                    {(now.sure === null || now.sure > 0.05) && <p className="mt-1 text-doubt">▲ These tell little of the lens: match places nearer and farther away too.</p>}
                </div>
            )}
        </Section>
    );
}
