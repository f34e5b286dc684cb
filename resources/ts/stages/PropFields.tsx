import type { Option } from '../data/api';
import type { Prop } from '../data/document';
import { editProp } from '../data/shot';
import { isKeyed } from '../data/track';
import { useCatalogue } from '../data/useCatalogue';
import { Choice } from '../parts/controls';
import { KeyedNumber, KeyedTriple } from '../parts/KeyedField';
import { NumberField } from '../parts/NumberField';

const STEPS: Record<string, number> = { position: 0.01, turn: 1, velocity: 0.1, spin: 10 };

/** One value of a prop, as its option says. */
export function PropField({ prop, group, option, fallback, slider }: { prop: Prop; group: 'place' | 'material' | 'motion'; option: Option; fallback?: number; slider?: boolean }) {
    const lane = `${prop.id}:${group}/${option.name}`;
    const own = (prop[group] as unknown as Record<string, unknown>)[option.name];
    // What the document does not say yet is said by the first change.
    const path = `/${group}/${option.name}`;
    if (own === undefined && option.type === 'number') return <Unset option={option} value={fallback ?? Number(option.default ?? 0)} slider={slider} onChange={(v) => void editProp(prop.id, option.label, { [path]: v })} />;
    if (option.type === 'point') return <KeyedTriple lane={lane} option={option} step={STEPS[option.name]} />;
    return <KeyedNumber lane={lane} option={option} slider={slider} fallback={fallback} />;
}

function Unset({ option, value, slider, onChange }: { option: Option; value: number; slider?: boolean; onChange: (v: number) => void }) {
    const share = option.least === 0 && option.most <= 1 && option.unit === '';
    return <div className="flex items-center gap-1"><div className="min-w-0 flex-1"><NumberField label={option.label} hint={option.meaning} unit={share ? '%' : option.unit} slider={slider} least={option.least} most={option.most} value={value} onChange={onChange} /></div><span className="w-[15px]" /></div>;
}

/** Where the prop stands, how large it is, and whether it is shown. */
export function PlaceFields({ prop }: { prop: Prop }) {
    const options = useCatalogue()?.settings.place ?? [];
    const turns = [...prop.place.turn].some(isKeyed);
    return (
        <>
            {options.map((o) => <PropField key={o.name} prop={prop} group="place" option={o} fallback={1} slider={o.name === 'seen'} />)}
            {turns && (
                <div className="flex min-h-[33px] items-center gap-2" title="Each axis by itself, so that 0 to 360 is one full turn; or the turn as a whole">
                    <span className="w-[108px] shrink-0">Between keys</span>
                    <Choice label="Turns between keys" value={prop.place.between ?? 'axes'} options={[{ value: 'axes', label: 'each axis' }, { value: 'shortest', label: 'shortest way' }]} onChange={(v) => void editProp(prop.id, 'Turn between keys', { '/place/between': v })} />
                </div>
            )}
        </>
    );
}

export function MaterialField({ prop, name, fallback, slider }: { prop: Prop; name: string; fallback: number; slider?: boolean }) {
    const option = useCatalogue()?.settings.material.find((o) => o.name === name);
    return option ? <PropField prop={prop} group="material" option={option} fallback={fallback} slider={slider} /> : null;
}
