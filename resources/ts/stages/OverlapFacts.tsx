import type { BakeView } from '../data/api';
import { lookAtOverlap, useOverlap, type Overlapping } from '../data/overlap';
import { show } from '../data/quantity';
import { useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Fact, Fault } from '../parts/controls';

/** How deep pieces lie in each other at a frame, measured on their true surfaces when asked for. */
export function OverlapFacts({ bake }: { bake: BakeView }) {
    const frame = Math.min(useUi((s) => s.frame), bake.first + bake.framesDone - 1);
    const { bake: of, found, working, problem, measure } = useOverlap();
    const own = of === bake.id;
    return (
        <div className="mt-2">
            <Button disabled={own && working} onClick={() => void measure(bake.id, frame)}>{own && working ? 'Measuring the overlap' : `Measure the overlap at frame ${frame}`}</Button>
            {own && problem !== null && <div className="mt-2"><Fault message={problem.message} remedy={problem.remedy} /></div>}
            {own && found !== null && (
                <div className="mt-1.5">
                    <p className="text-soft">{found.pieces === 0 ? `Nothing has been let go at frame ${found.frame}.` : `Frame ${found.frame}, true surfaces, as a share of how thick the thinner piece is. Press one to look there.`}</p>
                    {found.pieces > 0 && <Fact name="95 of 100 pieces below">{percent(found.most)}</Fact>}
                    {found.pieces > 0 && found.deepest.length === 0 && <Fact name="deepest">none</Fact>}
                    {found.deepest.map((o, i) => (
                        <Fact key={i} name={percent(o.share)}>
                            <button type="button" className="text-right whitespace-normal hover:underline" title="Look there" onClick={() => lookAtOverlap(found.frame, o)}>{inWords(o)}, {show(o.depth, 'm', 2)}</button>
                        </Fact>
                    ))}
                </div>
            )}
        </div>
    );
}

const percent = (share: number) => `${(100 * share).toFixed(1)}\u00a0%`;

function inWords({ prop, name, other }: Overlapping): string {
    if (other === null) return `${name} in the ground`;
    return other.prop === prop ? `${name} in ${other.name}` : `${name} in ${useShot.getState().shot?.document.props.find((p) => p.id === other.prop)?.name ?? other.prop}`;
}
