import { useEffect } from 'react';
import { useBake } from '../data/bake';
import { followCloth, useClothAt, type OnCloth } from '../data/clothAt';
import { show as quantity } from '../data/quantity';
import { useUi } from '../data/ui';
import { useCatalogue } from '../data/useCatalogue';
import { useChosen } from '../data/useChosen';
import { Fact, Section, Toggle } from '../parts/controls';

/** By how much the chosen cloth is drawn and what presses it outwards, in figures and, where wanted, in the picture. */
export function ClothFacts() {
    const prop = useChosen();
    const movers = useCatalogue()?.movers ?? {};
    const { bake } = useBake();
    const { frame, show, set } = useUi();
    const soft = prop !== null && movers[prop.motion.kind]?.waves === true;
    const there = bake !== null && frame >= bake.first && frame < bake.first + bake.framesDone;
    const id = bake?.id;
    useEffect(() => {
        return soft && prop && there && id !== undefined ? followCloth(id, prop.id, frame) : undefined;
        // Of the prop only which it is counts.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [soft, there, id, prop?.id, frame]);
    const { of, found, problem } = useClothAt();
    const own = prop !== null && of === prop.id;
    const pressure = own && found !== null ? found.pressure : null;
    const nothing = !soft ? show === 'stretch' || show === 'pressure' : show === 'pressure' && own && found !== null && pressure === null;
    useEffect(() => {
        if (nothing) set({ show: null });
    }, [nothing, set]);
    if (!soft || !prop) return null;
    const percent = (v: number) => `${(100 * v).toFixed(v < 0.01 ? 2 : 1)} %`;
    return (
        <>
            <Section title={`Stretch of ${prop.name}`} aside={found !== null && own ? `frame ${found.frame}` : ''}>
                {problem !== null && own && <p className="text-soft">{problem}</p>}
                {found !== null && own && (
                    <>
                        <Most name="drawn most" of={found.stretch}>{percent(found.stretch.worst)}</Most>
                        <Fact name="on the mean">{percent(found.stretch.mean)}</Fact>
                        <Fact name="gives before it is taut">{percent(found.stretch.gives)}</Fact>
                    </>
                )}
                <Toggle label="Show it in the picture" hint="Yellow where it is not drawn, blue where it is as far as it gives" value={show === 'stretch'} onChange={(v) => set({ show: v ? 'stretch' : null })} />
            </Section>
            {pressure !== null && (
                <Section title={`Pressure in ${prop.name}`} aside={`frame ${found?.frame}`}>
                    <Most name={Math.abs(pressure.least) > Math.abs(pressure.most) ? 'drawn in most' : 'pressed out most'} of={pressure}>{quantity(Math.abs(pressure.least) > Math.abs(pressure.most) ? -pressure.least : pressure.most, 'Pa')}</Most>
                    {pressure.least !== pressure.most && <Fact name="least">{quantity(Math.abs(pressure.least) > Math.abs(pressure.most) ? -pressure.most : pressure.least, 'Pa')}</Fact>}
                    <Toggle label="Show that in the picture" hint="Yellow where nothing presses, blue where it is greatest" value={show === 'pressure'} onChange={(v) => set({ show: v ? 'pressure' : null })} />
                </Section>
            )}
        </>
    );
}

/** The most of something, which leads to where that is. */
function Most({ name, of, children }: { name: string; of: OnCloth; children: string }) {
    const set = useUi((s) => s.set);
    return <Fact name={name}><button type="button" className="hover:underline" title="Look there" onClick={() => set({ look: { at: of.at, across: 1, asked: useUi.getState().look.asked + 1 } })}>{children}</button></Fact>;
}
