import { useEffect } from 'react';
import { useBake } from '../data/bake';
import { followStretch, useStretch } from '../data/stretch';
import { useUi } from '../data/ui';
import { useCatalogue } from '../data/useCatalogue';
import { useChosen } from '../data/useChosen';
import { Fact, Section, Toggle } from '../parts/controls';

/** By how much the chosen cloth is drawn, in figures and, where wanted, in the picture. */
export function StretchFacts() {
    const prop = useChosen();
    const movers = useCatalogue()?.movers ?? {};
    const { bake } = useBake();
    const { frame, show, set } = useUi();
    const soft = prop !== null && movers[prop.motion.kind]?.waves === true;
    const there = bake !== null && frame >= bake.first && frame < bake.first + bake.framesDone;
    const on = show === 'stretch';
    const id = bake?.id;
    useEffect(() => {
        return soft && prop && there && id !== undefined ? followStretch(id, prop.id, frame) : undefined;
        // Of the prop only which it is counts.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [soft, there, id, prop?.id, frame]);
    const { of, found, problem } = useStretch();
    useEffect(() => {
        if (on && !soft) set({ show: null });
    }, [on, soft, set]);
    if (!soft || !prop) return null;
    const percent = (v: number) => `${(100 * v).toFixed(v < 0.01 ? 2 : 1)} %`;
    return (
        <Section title={`Stretch of ${prop.name}`} aside={found !== null && of === prop.id ? `frame ${found.frame}` : ''}>
            {problem !== null && of === prop.id && <p className="text-soft">{problem}</p>}
            {found !== null && of === prop.id && (
                <>
                    <Fact name="drawn most"><button type="button" className="hover:underline" title="Look there" onClick={() => set({ look: { at: found.at, across: 1, asked: useUi.getState().look.asked + 1 } })}>{percent(found.worst)}</button></Fact>
                    <Fact name="on the mean">{percent(found.mean)}</Fact>
                    <Fact name="gives before it is taut">{percent(found.gives)}</Fact>
                </>
            )}
            <Toggle label="Show it in the picture" hint="Yellow where it is not drawn, blue where it is as far as it gives" value={on} onChange={(v) => set({ show: v ? 'stretch' : null })} />
        </Section>
    );
}
