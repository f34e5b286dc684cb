import type { Catalogue } from '../../data/api';
import type { Prop, WeightLimit, WeightMap, WeightSource } from '../../data/document';
import { defaultsOf } from '../../data/options';
import { editProp, useDocument } from '../../data/shot';
import { sourceName } from '../../data/weights';
import { Section, Select, Toggle } from '../../parts/controls';
import { Options } from '../Options';
import { ByHand } from './ByHand';
import { ProfileGraph } from './ProfileGraph';

interface Props {
    prop: Prop;
    map: WeightMap;
    /** Place of the map among those of the prop, and of the source in it. */
    mapAt: number;
    at: number;
    catalogue: Catalogue;
}

/** Everything about the chosen source. */
export function SourcePanel({ prop, map, mapAt, at, catalogue }: Props) {
    const document = useDocument()!;
    const source = map.sources[at]!;
    const entry = catalogue.weights[source.source];
    const path = `weights/${mapAt}/sources/${at}`;
    if (entry === undefined) return <p className="px-4 py-3 text-soft">This version knows no source called “{source.source}”.</p>;
    const { name, of } = sourceName(source, document, catalogue);
    const values = source.values as Record<string, unknown>;
    const set = (label: string, to: Record<string, unknown>) => void editProp(prop.id, label, to);
    return (
        <Section title={name} aside={entry.measured ? 'distance → weight' : (entry.meaning ?? '').toLowerCase()}>
            {of !== '' && <p className="-mt-1 mb-1.5 text-soft">{of}</p>}
            {entry.measured && <ProfileGraph prop={prop.id} path={path} at={at} sources={map.sources} entry={entry} />}
            {source.source === 'brush' || source.source === 'region' ? <ByHand prop={prop} source={source} path={path} /> : <Options prop={prop} path={path} options={entry.options} values={values} label={name} />}
            <Toggle label="Invert" hint="Where it was full it is none, and the other way round" value={source.invert ?? false} onChange={(invert) => set(`Invert ${name}`, { [`/${path}/invert`]: invert })} />
            {!['proximity', 'map', 'brush', 'region', 'pins', 'hollows', 'pieces'].includes(source.source) && (
                <Select
                    label="Stands in"
                    value={source.on ?? 'own'}
                    options={[{ value: 'own', label: `${prop.name}: it goes along` }, { value: 'world', label: 'the world: it stays' }, ...document.props.filter((p) => p.id !== prop.id).map((p) => ({ value: p.id, label: `rides on ${p.name}` }))]}
                    onChange={(on) => set(`${name} stands elsewhere`, { [`/${path}/on`]: on })}
                />
            )}
            <Limit prop={prop} map={map} path={path} source={source} catalogue={catalogue} />
        </Section>
    );
}

/** What a source is limited to: another map, or a source of its own. */
function Limit({ prop, map, path, source, catalogue }: { prop: Prop; map: WeightMap; path: string; source: WeightSource; catalogue: Catalogue }) {
    const document = useDocument()!;
    const limit = source.within ?? null;
    const maps = document.props.flatMap((p) => (p.weights ?? []).filter((m) => m.id !== map.id).map((m) => ({ value: `map ${m.id}`, label: `the map ${m.name}` })));
    const kinds = ['region', 'pins', 'ball', 'box', 'front', 'stripes', 'grain', 'facing', 'hollows'].map((k) => ({ value: k, label: `by ${(catalogue.weights[k]?.label ?? k).toLowerCase()}` }));
    const value = limit === null ? '' : limit.source === 'map' ? `map ${String((limit.values as Record<string, unknown>).map)}` : limit.source;
    const choose = (v: string) => {
        const next: WeightLimit | null = v === '' ? null : v.startsWith('map ') ? { source: 'map', values: { map: v.slice(4) } } : { source: v, values: defaultsOf(catalogue.weights[v]) };
        void editProp(prop.id, v === '' ? 'Limit it no more' : 'Limit it', { [`/${path}/within`]: next });
    };
    return (
        <>
            <Select label="Within" value={value} options={[{ value: '', label: 'everywhere' }, ...maps, ...kinds]} onChange={choose} />
            {limit !== null && limit.source !== 'map' && (
                <div className="mb-1 border-l-2 border-line pl-2.5">
                    <Options prop={prop} path={`${path}/within`} options={catalogue.weights[limit.source]?.options ?? []} values={limit.values as Record<string, unknown>} label="the limit" />
                </div>
            )}
            {limit !== null && <Toggle label="Outside it" hint="Act where the limit does not" value={limit.invert ?? false} onChange={(invert) => void editProp(prop.id, 'Turn the limit round', { [`/${path}/within/invert`]: invert })} />}
        </>
    );
}
