import { Dices } from 'lucide-react';
import type { Catalogue, Entry } from '../data/api';
import type { Prop } from '../data/document';
import { usePieces } from '../data/pieces';
import { editProp } from '../data/shot';
import { useUi } from '../data/ui';
import { Choice, Fault, Section } from '../parts/controls';
import { NumberField } from '../parts/NumberField';
import { applies } from '../data/options';
import { OptionField } from '../parts/OptionField';
import { BenchHead, ChooseFirst } from './BenchHead';
import { PresetPlate } from './PresetPlate';
import { LetFall } from './FallWays';
import { Judge } from './Judge';
import { Rework } from './Rework';
import { PATTERN_DRAWINGS } from './drawings';
import { Layers } from './Layers';
import { Plate } from './Plate';
import { DrawLines } from './DrawLines';
import { defaultsOf } from '../data/options';
import { useCatalogue } from '../data/useCatalogue';
import { useChosen } from '../data/useChosen';

export function BreakStage() {
    const prop = useChosen();
    const catalogue = useCatalogue();
    if (prop === null || !catalogue) {
        return (
            <>
                <BenchHead help="patterns" title="Break" under="Solid pieces that fit without a gap until released" />
                <ChooseFirst what="break it" />
            </>
        );
    }
    return <Patterns key={prop.id} prop={prop} catalogue={catalogue} />;
}

function Patterns({ prop, catalogue }: { prop: Prop; catalogue: Catalogue }) {
    const pieces = usePieces((s) => s.byProp[prop.id]);
    const problem = usePieces((s) => s.problems[prop.id]);
    const pattern = prop.break?.pattern ?? 'none';
    const entry = catalogue.patterns[pattern];
    const choose = (name: string) => {
        if (name === pattern) return;
        useUi.getState().set({ drawing: null, picked: [] });
        void editProp(prop.id, name === 'none' ? `Leave ${prop.name} whole` : `Break ${prop.name} by ${catalogue.patterns[name]?.label}`, { '/break': name === 'none' ? null : { pattern: name, values: defaultsOf(catalogue.patterns[name], pieces?.lengths.patterns[name]) }, '/rework': [] });
    };
    return (
        <>
            <BenchHead help={entry === undefined ? 'patterns' : `patterns#${entry.label.toLowerCase()}`} aside={<PresetPlate bench="break" prop={prop} />} title={`Break ${prop.name}`} under={entry?.meaning ?? 'Solid pieces that fit without a gap until released'} />
            <Section title="Pattern">
                <div role="radiogroup" aria-label="Pattern" className="grid grid-cols-4 gap-1.5">
                    {['none', ...Object.keys(catalogue.patterns)].map((name) => (
                        <button key={name} type="button" role="radio" aria-checked={pattern === name} title={catalogue.patterns[name]?.meaning} onClick={() => choose(name)} className={`quick flex h-[56px] flex-col items-center justify-center gap-1 border ${pattern === name ? 'border-chosen bg-chosen text-on-chosen' : 'border-line bg-raised hover:border-ink'}`}>
                            <span className={pattern === name ? 'text-chosen-mark' : ''}>{PATTERN_DRAWINGS[name]}</span>
                            <span className="font-narrow text-[12px]">{name === 'none' ? 'Whole' : catalogue.patterns[name]!.label}</span>
                        </button>
                    ))}
                </div>
            </Section>
            {problem && <div className="px-4 pb-3"><Fault message={problem.message} remedy={problem.remedy}>{pieces && <p className="mt-1 text-soft">{pieces.first ? 'The prop is shown unbroken.' : 'The last good break is still shown.'}</p>}</Fault></div>}
            {prop.break && entry && <Values prop={prop} entry={entry} />}
            {pieces?.first && !problem && <p role="status" className="border-t border-line px-4 py-3 text-soft">A first look: {pieces.pieces.length} pieces stand for what is being made. The figures follow.</p>}
            {pieces && !pieces.first && prop.break && pieces.pieces.length > 1 && <Judge pieces={pieces} density={prop.material.density} />}
            {prop.break && prop.motion.kind === 'fixed' && pieces && !problem && (
                <Section title="What next">
                    <p className="mb-2 text-soft">{prop.name} stands still. Let it fall from its own height and come apart on the ground, or say on the Motion stage how it moves.</p>
                    <LetFall prop={prop} />
                </Section>
            )}
            {prop.break && <Rework prop={prop} catalogue={catalogue} />}
            {!prop.break && <p className="px-4 pb-4 text-soft">{prop.name} stays in one piece. Choose a pattern to break it: Cells for solid chunks, Strike for glass, Courses for masonry.</p>}
        </>
    );
}

function Values({ prop, entry }: { prop: Prop; entry: Entry }) {
    const values = prop.break!.values;
    const working = usePieces((s) => s.working[prop.id]) ?? null;
    const { spread, spreadBy, set } = useUi();
    const ringed = usePieces((s) => s.byProp[prop.id]?.rings != null);
    const seeded = entry.options.some((o) => o.name === 'seed');
    const start = middleOf(prop.id);
    const draw = <DrawLines target="break" />;
    return (
        <Section
            title={entry.label}
            aside={
                <span className="flex items-center gap-1.5">
                    {working !== null && <span role="status">breaking…{working > 0 && ` ${Math.round(100 * working)} %`}</span>}
                    {seeded && (
                        <button type="button" className="flex items-center gap-1 hover:text-ink" title="Another break of the same kind" onClick={() => void editProp(prop.id, `Another seed for ${prop.name}`, { '/break/values/seed': (Number(values.seed ?? 1) % 999999) + 1 })}>
                            <Dices size={13} aria-hidden /> next seed
                        </button>
                    )}
                </span>
            }
        >
            {entry.options.filter((o) => applies(o, entry.options, values)).map((o) => (
                <OptionField key={o.name} option={o} lane={`${prop.id}:break/values/${o.name}`} value={values[o.name]} start={start} extra={o.type === 'lines' ? draw : undefined} onChange={(v) => void editProp(prop.id, `${o.label} of ${prop.name}`, { [`/break/values/${o.name}`]: v })} />
            ))}
            {prop.break!.pattern === 'halving' && <p className="text-soft">{Number(values.passes ?? 5)} passes give {(2 ** Number(values.passes ?? 5)).toLocaleString('en')} pieces.</p>}
            {prop.break!.pattern === 'score' && <Plate prop={prop} />}
            {prop.break!.pattern === 'punch' && <Layers prop={prop} />}
            <div className="mt-1 border-t border-dotted border-line pt-1">
                <NumberField slider label="Smooth inside" hint="Inner faces that meet at less than this are shaded as one surface" unit="°" least={0} most={180} value={prop.innerSmooth ?? 0} onChange={(v) => void editProp(prop.id, `Smooth the inside of ${prop.name}`, { '/innerSmooth': v })} />
                <NumberField slider label="Spread apart" hint="Only in the picture" unit="%" least={0} most={1.5} value={spread} onChange={(v) => set({ spread: v })} />
                {ringed && (
                    <div className="flex min-h-[33px] items-center gap-2">
                        <span className="w-[108px] shrink-0" title="Only to look between them: nothing of the shot changes">Spread apart</span>
                        <Choice<typeof spreadBy> label="Spread apart" value={spreadBy} onChange={(v) => set({ spreadBy: v })} options={[{ value: 'distance', label: 'By distance' }, { value: 'ring', label: 'Ring by ring', hint: 'Along the way it was hit' }]} />
                    </div>
                )}
            </div>
        </Section>
    );
}

function middleOf(id: string): number[] {
    const pieces = usePieces.getState().byProp[id]?.pieces ?? [];
    const n = Math.max(1, pieces.length);
    return [0, 1, 2].map((a) => Number((pieces.reduce((sum, p) => sum + p.centre[a]!, 0) / n).toFixed(3)));
}
