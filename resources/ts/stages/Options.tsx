import type { Option } from '../data/api';
import type { Prop } from '../data/document';
import { applies } from '../data/options';
import { editProp } from '../data/shot';
import { KeyedNumber, KeyedTriple } from '../parts/KeyedField';
import { OptionField } from '../parts/OptionField';

interface FieldsProps {
    /** What their lanes begin with, as `prop:motion/values`. */
    lanes: string;
    options: readonly Option[];
    values: Record<string, unknown>;
    /** Sets one that is not keyed. */
    onSet: (option: Option, value: unknown) => void;
    /** The prop whose weight maps they may go by, where only those will do. */
    mapsOf?: string;
}

/** The controls of options, each keyed where it can be. */
export function OptionFields({ lanes, options, values, onSet, mapsOf }: FieldsProps) {
    return (
        <>
            {options.filter((o) => applies(o, options, values)).map((o) => {
                const lane = `${lanes}/${o.name}`;
                if (o.keyable && o.type === 'point') return <KeyedTriple key={o.name} lane={lane} option={o} step={o.unit === 'm' ? 0.01 : 0.1} />;
                if (o.keyable) return <KeyedNumber key={o.name} lane={lane} option={o} slider={o.least === 0 && o.most <= 1 && o.unit === ''} />;
                return <OptionField key={o.name} option={o} lane={lane} value={values[o.name] ?? o.default} onChange={(v) => onSet(o, v)} mapsOf={mapsOf} />;
            })}
        </>
    );
}

/** The same of something at a place below a prop. */
export function Options({ prop, path, options, values, label }: { prop: Prop; path: string; options: readonly Option[]; values: Record<string, unknown>; label: string }) {
    return <OptionFields lanes={`${prop.id}:${path}/values`} mapsOf={prop.id} options={options} values={values} onSet={(o, v) => void editProp(prop.id, `${o.label} of ${label}`, { [`/${path}/values/${o.name}`]: v })} />;
}
