import type { MapFinding } from '../../data/api';
import type { Prop, WeightMap } from '../../data/document';
import { frameShown, useMaps } from '../../data/maps';
import { editProp } from '../../data/shot';
import { useUi } from '../../data/ui';
import { Fault, Section } from '../../parts/controls';
import { showPlace } from '../../data/place';

/** How far the map reaches at the playhead, and what is doubtful about it. */
export function MapFacts({ prop, map, mapAt }: { prop: Prop; map: WeightMap; mapAt: number }) {
    const frame = useUi((s) => s.frame);
    const { told, problem, of } = useMaps();
    useMaps((s) => s.came);
    useMaps((s) => s.trial);
    const now = of === map.id ? frameShown(frame) : null;
    const percent = (share: number) => `${Math.round(1000 * share) / 10} %`;
    const missing = told === null ? 0 : told.coverage.filter((c) => c === null).length;
    return (
        <Section title={`At frame ${frame}`} aside={now === null ? (problem === null ? 'working…' : '') : `min ${two(now.least)} · mean ${two(now.mean)} · max ${two(now.most)}`}>
            {problem !== null && <Fault message={problem.message} remedy={problem.remedy} />}
            {problem === null && now !== null && (
                <p className="figure mb-1.5 text-[12px]">none {percent(now.none)} · between {percent(Math.max(0, 1 - now.none - now.full))} · full {percent(now.full)}</p>
            )}
            {missing > 0 && problem === null && <p role="status" className="mb-1.5 text-soft">Working out {missing} {missing === 1 ? 'frame' : 'frames'}…</p>}
            {(told?.findings ?? []).map((finding) => <Finding key={finding.message} finding={finding} prop={prop} mapAt={mapAt} />)}
            {told !== null && told.done && told.findings.length === 0 && problem === null && <p className="text-fine">● Nothing doubtful about it.</p>}
        </Section>
    );
}

function Finding({ finding, prop, mapAt }: { finding: MapFinding; prop: Prop; mapAt: number }) {
    const set = useUi((s) => s.set);
    const layer = /^sources\[(\d+)\]/.exec(finding.path)?.[1];
    const { mend } = finding;
    const show = () => {
        if (finding.frame !== null) set({ frame: finding.frame, playing: false });
        if (layer !== undefined) set({ layer: Number(layer) });
        if (finding.at !== null) showPlace(prop.id, finding.at);
    };
    const pointer = (path: string) => `/weights/${mapAt}/${path.replace(/\[(\d+)\]/g, '/$1').replace(/\./g, '/')}`;
    return (
        <div className="mb-1.5 flex items-start gap-2 border-l-4 border-doubt bg-raised px-2.5 py-1.5">
            <p className="min-w-0 flex-1"><span className="sr-only">Doubtful: </span>{finding.message} <span className="text-soft">{finding.remedy}</span></p>
            <span className="flex shrink-0 flex-col items-end gap-0.5">
                {(finding.frame !== null || layer !== undefined || finding.at !== null) && <button type="button" className="underline underline-offset-2" onClick={show}>Show</button>}
                {mend !== null && <button type="button" className="underline underline-offset-2" onClick={() => void editProp(prop.id, 'Mend the map', Object.fromEntries(Object.entries(mend.value).map(([name, v]) => [`${pointer(mend.path)}/${name}`, v])))}>Mend</button>}
            </span>
        </div>
    );
}

function two(value: number): string {
    return value === 0 || value === 1 ? String(value) : value.toFixed(2);
}
