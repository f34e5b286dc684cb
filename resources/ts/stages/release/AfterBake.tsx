import type { Prop } from '../../data/document';
import { usePieces } from '../../data/pieces';
import { editProp } from '../../data/shot';
import { Choice, Section, Select } from '../../parts/controls';
import { NumberField } from '../../parts/NumberField';

const TIMES = ['not', 'once', 'twice', 'three times'] as const;

/** What becomes of a soft surface once it is baked; it needs no other bake. */
export function AfterBake({ prop }: { prop: Prop }) {
    const finish = prop.finish ?? {};
    const faces = usePieces((s) => s.byProp[prop.id]?.finished?.finish.faces);
    const set = (label: string, change: Record<string, unknown>) => void editProp(prop.id, `${label} of ${prop.name}`, { '/finish': { ...finish, ...change } });
    return (
        <Section title="After the bake" aside={faces === undefined ? '' : `${faces.toLocaleString('en')} faces`}>
            <Select label="Divided" value={String(finish.times ?? 0)} options={TIMES.map((label, k) => ({ value: String(k), label: k === 0 ? label : `${label}: ${4 ** k} faces of one` }))} onChange={(v) => set('Divide the faces', { times: Number(v) })} />
            <NumberField label="Shown thick" hint="Half of it to either side, with a rim; 0 for one layer" unit="m" least={0} most={1} step={0.001} value={finish.thickness ?? 0} onChange={(thickness) => set('Thickness', { thickness })} />
            <div className="flex min-h-[33px] items-center gap-2">
                <span className="w-[108px] shrink-0">Shaded</span>
                <Choice label="Shaded" value={finish.shading ?? 'smooth'} options={[{ value: 'smooth', label: 'Smooth' }, { value: 'flat', label: 'Flat', hint: 'Face by face' }]} onChange={(shading) => set('Shading', { shading })} />
            </div>
            <p className="text-soft">Rounded by Loop’s rule; what is baked stays as it is.</p>
        </Section>
    );
}
