import { useQuery } from '@tanstack/react-query';
import { Dices } from 'lucide-react';
import { api, type Option } from '../data/api';
import type { Prop } from '../data/document';
import { usePieces, type PropPieces } from '../data/pieces';
import { editProp } from '../data/shot';
import { useUi } from '../data/ui';
import { Button, Fact, Fault, Section, Toggle } from '../parts/controls';
import { showMass, showNumber, showVolume } from '../parts/number';
import { NumberField, TripleField } from '../parts/NumberField';
import { PieceSizes } from '../parts/PieceSizes';
import { BenchHead, ChooseFirst } from './BenchHead';
import { PATTERN_DRAWINGS } from './drawings';
import { useChosen } from './useChosen';

const PATTERNS: Record<string, string> = { cells: 'Cells' };

export function BreakStage() {
    const prop = useChosen();
    if (prop === null) {
        return (
            <>
                <BenchHead title="Break" under="Solid pieces that fit without a gap until released" />
                <ChooseFirst what="break it" />
            </>
        );
    }
    return <Patterns key={prop.id} prop={prop} />;
}

function Patterns({ prop }: { prop: Prop }) {
    const catalogue = useQuery({ queryKey: ['catalogue'], queryFn: api.catalogue, staleTime: Infinity }).data;
    const pieces = usePieces((s) => s.byProp[prop.id]);
    const problem = usePieces((s) => s.problems[prop.id]);
    const working = usePieces((s) => s.working[prop.id]);
    const pattern = prop.break?.pattern ?? 'none';
    const options = catalogue?.patterns[pattern];
    const choose = (name: string) => {
        if (name === pattern) return;
        const defaults = Object.fromEntries((catalogue?.patterns[name] ?? []).filter((o) => o.default !== null).map((o) => [o.name, o.default]));
        void editProp(prop.id, name === 'none' ? `Leave ${prop.name} whole` : `Break ${prop.name}`, { '/break': name === 'none' ? null : { pattern: name, values: defaults } });
    };
    return (
        <>
            <BenchHead title={`Break ${prop.name}`} under="Solid pieces that fit without a gap until released" />
            <Section title="Pattern">
                <div role="radiogroup" aria-label="Pattern" className="grid grid-cols-5 gap-1.5">
                    {['none', ...Object.keys(catalogue?.patterns ?? {})].map((name) => (
                        <button key={name} type="button" role="radio" aria-checked={pattern === name} onClick={() => choose(name)} className={`quick flex h-[60px] flex-col items-center justify-center gap-1 border ${pattern === name ? 'border-chosen bg-chosen text-on-chosen' : 'border-line bg-raised hover:border-ink'}`}>
                            <span className={pattern === name ? 'text-chosen-mark' : ''}>{PATTERN_DRAWINGS[name]}</span>
                            <span className="font-narrow text-[12px]">{name === 'none' ? 'Whole' : (PATTERNS[name] ?? name)}</span>
                        </button>
                    ))}
                </div>
            </Section>
            {problem && <div className="px-4 pb-3"><Fault message={problem.message} remedy={problem.remedy}>{pieces && <p className="mt-1 text-soft">The last good break is still shown.</p>}</Fault></div>}
            {options && <Values prop={prop} options={options} working={working ?? null} />}
            {pieces && prop.break && pieces.pieces.length > 1 && <Judge pieces={pieces} density={prop.material.density} />}
            {!prop.break && <p className="px-4 pb-4 text-soft">{prop.name} stays in one piece. Choose Cells to break it into solid chunks.</p>}
        </>
    );
}

function Values({ prop, options, working }: { prop: Prop; options: Option[]; working: number | null }) {
    const values = prop.break!.values;
    const spread = useUi((s) => s.spread);
    const set = useUi((s) => s.set);
    const strike = values.strike as number[] | null | undefined;
    const change = (o: Option, v: unknown) => void editProp(prop.id, `${o.label} of ${prop.name}`, { [`/break/values/${o.name}`]: v });
    return (
        <Section
            title={PATTERNS[prop.break!.pattern] ?? prop.break!.pattern}
            aside={
                <span className="flex items-center gap-1.5">
                    {working !== null && <span role="status">breaking…{working > 0 && ` ${Math.round(100 * working)} %`}</span>}
                    <button type="button" className="flex items-center gap-1 hover:text-ink" title="Another break of the same kind" onClick={() => void editProp(prop.id, `Another seed for ${prop.name}`, { '/break/values/seed': (Number(values.seed ?? 1) % 999999) + 1 })}>
                        <Dices size={13} aria-hidden /> next seed
                    </button>
                </span>
            }
        >
            {options.map((o) => {
                if (o.type === 'point') {
                    return (
                        <div key={o.name}>
                            <Toggle label={o.label} hint={o.meaning} value={strike != null} onChange={(on) => change(o, on ? middleOf(prop.id) : null)} />
                            {strike != null && <TripleField label="At" unit="m" step={0.01} value={strike} onChange={(v) => change(o, v)} />}
                        </div>
                    );
                }
                if ((o.name === 'crowd' || o.name === 'reach') && strike == null) return null;
                const share = o.type === 'number' && o.least === 0 && o.most === 1;
                return <NumberField key={o.name} slider={o.name !== 'seed'} label={o.label} hint={o.meaning} unit={share ? '%' : o.unit} least={o.least} most={o.most} whole={o.type === 'whole'} value={Number(values[o.name] ?? o.default)} onChange={(v) => change(o, v)} />;
            })}
            <div className="mt-1 border-t border-dotted border-line pt-1">
                <NumberField slider label="Spread apart" hint="Only in the picture" unit="%" least={0} most={1.5} value={spread} onChange={(v) => set({ spread: v })} />
            </div>
        </Section>
    );
}

function middleOf(id: string): number[] {
    const pieces = usePieces.getState().byProp[id]?.pieces ?? [];
    const n = Math.max(1, pieces.length);
    return [0, 1, 2].map((a) => Number((pieces.reduce((sum, p) => sum + p.centre[a]!, 0) / n).toFixed(3)));
}

function Judge({ pieces, density }: { pieces: PropPieces; density: number }) {
    const f = pieces.figures;
    const picked = useUi((s) => s.picked);
    const volume = picked.reduce((sum, i) => sum + (pieces.pieces[i]?.volume ?? 0), 0);
    const set = useUi((s) => s.set);
    return (
        <section className="border-t border-line px-4 py-3">
            <PieceSizes pieces={pieces} />
            <div className="mt-2 grid grid-cols-2 gap-x-3">
                <Fact name="pieces">{f.pieces}</Fact>
                <Fact name="watertight" tone={f.watertight === f.pieces ? 'fine' : 'wrong'}>{f.watertight}/{f.pieces}</Fact>
                <Fact name="volume">{showVolume(f.volume)}</Fact>
                <Fact name="median">{showVolume(f.median)}</Fact>
                <Fact name="triangles">{f.triangles.toLocaleString('en')}</Fact>
                <Fact name="slivers" tone={f.slivers.length > 0 ? 'doubt' : undefined}>{f.slivers.length}</Fact>
            </div>
            <Fact name="largest ÷ median" tone={f.largest_to_median > 8 ? 'doubt' : undefined}>{showNumber(f.largest_to_median, 2)}</Fact>
            {f.slivers.length > 0 && (
                <p className="mt-2 flex items-center justify-between gap-2 text-doubt">
                    <span>▲ {f.slivers.length} {f.slivers.length === 1 ? 'piece is a sliver' : 'pieces are slivers'}</span>
                    <Button onClick={() => set({ picked: f.slivers })}>Show</Button>
                </p>
            )}
            {picked.length > 0 && (
                <p className="mt-2 flex items-center justify-between gap-2">
                    <span>{picked.length === 1 ? pieces.pieces[picked[0]!]?.name : `${picked.length} picked`}, {showVolume(volume)}, {showMass(volume * density)}</span>
                    <Button onClick={() => set({ picked: [] })}>Clear</Button>
                </p>
            )}
        </section>
    );
}
