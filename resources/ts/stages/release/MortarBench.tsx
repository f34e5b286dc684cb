import { useEffect } from 'react';
import type { Option } from '../../data/api';
import type { Prop } from '../../data/document';
import { askMortar, useMortar } from '../../data/mortar';
import { useShot } from '../../data/shot';
import { useUi } from '../../data/ui';
import { Section } from '../../parts/controls';
import { strainColour } from '../../parts/sizes';
import { Options } from '../Options';

export const MORTAR = 'Mortar';

/** What holds the pieces of a prop together, and what that bears. */
export function MortarBench({ prop, options }: { prop: Prop; options: readonly Option[] }) {
    const values = prop.motion.values ?? {};
    const mortar = options.filter((o) => o.part === MORTAR);
    if (mortar.length === 0) return null;
    return (
        <Section title={MORTAR}>
            <Options prop={prop} path="motion" options={mortar} values={values} label={prop.name} />
            {(values.mortar ?? 'none') !== 'none' && <Held prop={prop.id} />}
        </Section>
    );
}

/** What it holds, in words; a press shows it bond by bond. */
function Held({ prop }: { prop: string }) {
    const shot = useShot((s) => s.shot?.id);
    const revision = useShot((s) => s.shot?.revision);
    const told = useMortar();
    const { show, set } = useUi();
    useEffect(() => {
        if (shot === undefined) return;
        return askMortar(shot, prop);
        // Only a saved revision counts.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [shot, prop, revision]);
    if (told.prop !== prop || told.words === null) return <p className="text-soft" data-working="">What it bears is being worked out.</p>;
    const on = show === 'mortar';
    return (
        <div role="status" aria-label="What the mortar bears" className="mt-1 border-t border-dotted border-line pt-1.5">
            {told.words.map((w) => <p key={w}>{w}</p>)}
            {told.sections.length > 0 && (
                <button type="button" aria-pressed={on} aria-label="Show the bonds in the picture" className="mt-1.5 block w-full text-left" onClick={() => set({ show: on ? null : 'mortar' })}>
                    <span className="flex items-baseline justify-between"><span className={on ? 'font-medium' : ''}>{on ? 'Bonds are shown' : 'Bonds; press to show them'}</span><span className="figure text-[11px] text-soft">bears 0 – all it can</span></span>
                    <span className="mt-1 flex h-[9px] border border-line">{STEPS.map((k) => <span key={k} className="flex-1" style={{ background: `rgb(${strainColour((k / (STEPS.length - 1)) ** 2).map(Math.round).join(' ')})` }} />)}</span>
                </button>
            )}
        </div>
    );
}


const STEPS = Array.from({ length: 24 }, (_, k) => k);
