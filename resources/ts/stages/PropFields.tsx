import type { Option } from '../data/api';
import type { Prop } from '../data/document';
import { editProp } from '../data/shot';
import { isKeyed } from '../data/track';
import { useCatalogue } from '../data/useCatalogue';
import { Choice } from '../parts/controls';
import { KeyedNumber, KeyedTriple } from '../parts/KeyedField';

const STEPS: Record<string, number> = { position: 0.01, turn: 1, velocity: 0.1, spin: 10 };

/** One value of a prop, as its option says. */
export function PropField({ prop, group, option, fallback, slider }: { prop: Prop; group: 'place' | 'material'; option: Option; fallback?: number; slider?: boolean }) {
    const lane = `${prop.id}:${group}/${option.name}`;
    if (option.type === 'point') return <KeyedTriple lane={lane} option={option} step={STEPS[option.name]} />;
    return <KeyedNumber lane={lane} option={option} slider={slider} fallback={fallback} />;
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
