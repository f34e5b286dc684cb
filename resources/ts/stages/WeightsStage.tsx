import { useEffect } from 'react';
import type { Catalogue } from '../data/api';
import { useBake, useBaked } from '../data/bake';
import type { Prop, WeightMap } from '../data/document';
import { endTrial, fillShown, follow, shownMap } from '../data/maps';
import { currentMoments } from '../data/moments';
import { usePieces } from '../data/pieces';
import { inScene, poseAt } from '../data/pose';
import { editProp, useDocument, useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { useCatalogue } from '../data/useCatalogue';
import { fillWorn, followWorn, forgetWorn } from '../data/worn';
import { useChosen } from '../data/useChosen';
import { arithmetic, freeMapId, freeMapName, newSource } from '../data/weights';
import { Button, Section } from '../parts/controls';
import { BenchHead, ChooseFirst } from './BenchHead';
import { PresetPlate } from './PresetPlate';
import { AddMenu } from '../parts/AddMenu';
import { InTime } from './weights/InTime';
import { MapFacts } from './weights/MapFacts';
import { Seen } from './weights/Seen';
import { MapTabs } from './weights/MapTabs';
import { SourcePanel } from './weights/SourcePanel';
import { SourceStack } from './weights/SourceStack';
import { Uses } from './weights/Uses';

export function WeightsStage() {
    const prop = useChosen();
    const catalogue = useCatalogue();
    const document = useDocument();
    const chosenMap = useUi((s) => s.map);
    const shown = shownMap(document, prop?.id ?? null, chosenMap);
    useFollow(prop, shown?.map ?? null);
    if (prop === null || !catalogue || !document) {
        return (
            <>
                <BenchHead help="weights" title="Weights" under="Where it acts, from 0 to 1, over the frames" />
                <ChooseFirst what="weigh it" />
            </>
        );
    }
    const begin = (source: string) => {
        const entry = catalogue.weights[source];
        const name = freeMapName(document, entry?.label ?? 'Map');
        const id = freeMapId(document, name);
        void editProp(prop.id, `New map ${name}`, { '/weights': [...(prop.weights ?? []), { id, name, sources: [newSource(source, entry, lengthsOf(prop.id)[source] ?? {}, prop, document, middleOf(prop))] }] });
        useUi.getState().set({ map: id, layer: 0, show: 'weight' });
    };
    return (
        <>
            <BenchHead help="weights" aside={<PresetPlate bench="weights" prop={prop} />} title={`Weights of ${prop.name}`} under="Where it acts, from 0 to 1, over the frames" />
            {shown === null ? <FirstMap catalogue={catalogue} others={document.props.length > 1} onBegin={begin} /> : (
                <>
                    <MapTabs prop={prop} map={shown.map} mapAt={shown.at} catalogue={catalogue} onBegin={begin} />
                    <Seen prop={shown.prop} map={shown.map} />
                    <Stack prop={prop} map={shown.map} mapAt={shown.at} catalogue={catalogue} />
                </>
            )}
        </>
    );
}

/** The ways a map is begun most often. */
const FIRST = ['proximity', 'front', 'grain', 'brush'] as const;

function FirstMap({ catalogue, others, onBegin }: { catalogue: Catalogue; others: boolean; onBegin: (source: string) => void }) {
    return (
        <Section title="No map yet">
            <p className="mb-2 text-soft">A map says where something acts: which pieces are let go, which drift, what changes its look. Begin with a source; more are stacked upon it.</p>
            <div className="grid grid-cols-2 gap-1.5">
                {FIRST.filter((name) => others || name !== 'proximity').map((name) => (
                    <Button key={name} tone={name === 'proximity' || (!others && name === 'front') ? 'loud' : 'plain'} onClick={() => onBegin(name)} hint={catalogue.weights[name]?.meaning}>{catalogue.weights[name]?.label}</Button>
                ))}
            </div>
            <div className="mt-2"><AddMenu label="another source" title="Begin with another source" entries={catalogue.weights} onAdd={onBegin} /></div>
        </Section>
    );
}

function Stack({ prop, map, mapAt, catalogue }: { prop: Prop; map: WeightMap; mapAt: number; catalogue: Catalogue }) {
    const document = useDocument()!;
    const layer = useUi((s) => s.layer);
    const at = Math.min(layer, map.sources.length - 1);
    const add = (name: string) => {
        void editProp(prop.id, `Add ${catalogue.weights[name]!.label}`, { [`/weights/${mapAt}/sources`]: [...map.sources, { ...newSource(name, catalogue.weights[name], lengthsOf(prop.id)[name] ?? {}, prop, document, middleOf(prop)), operation: map.sources.length === 0 ? ('add' as const) : ('multiply' as const) }] });
        useUi.getState().set({ layer: map.sources.length });
    };
    return (
        <>
            <Section title="Sources" aside={<AddMenu label="source" entries={catalogue.weights} onAdd={add} />}>
                {map.sources.length > 0 && <output aria-label="Arithmetic" className="figure mb-2 block bg-[var(--wash)] px-2.5 py-1.5 text-[12px]">{arithmetic(map, document, catalogue)}</output>}
                <SourceStack prop={prop} map={map} mapAt={mapAt} catalogue={catalogue} />
            </Section>
            {at >= 0 && <SourcePanel key={`${map.id} ${at}`} prop={prop} map={map} mapAt={mapAt} at={at} catalogue={catalogue} />}
            <InTime prop={prop} map={map} mapAt={mapAt} catalogue={catalogue} />
            <Uses prop={prop} map={map} />
            <MapFacts prop={prop} map={map} mapAt={mapAt} />
        </>
    );
}

/** The map shown is worked out and fetched as long as this stage is open; it is shown unless the artist looks at something else. */
function useFollow(prop: Prop | null, map: WeightMap | null): void {
    const shot = useShot((s) => s.shot?.id);
    const revision = useShot((s) => s.shot?.revision);
    const frame = useUi((s) => s.frame);
    // Touches that were found meanwhile move what is tied to them.
    const found = useBake((s) => s.found);
    const baked = useBaked();
    useEffect(() => {
        const { show, set } = useUi.getState();
        if (map !== null && show === null) set({ show: 'weight' });
        return () => {
            endTrial();
            forgetWorn();
            const { show: last, effect } = useUi.getState();
            if (last === 'weight' || effect) set({ show: null, effect: false });
        };
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [map === null]);
    useEffect(() => {
        if (shot === undefined || prop === null || map === null) return;
        return follow(shot, prop.id, map.id);
        // Only a saved revision counts; the optimistic document in between does not.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [shot, prop?.id, map?.id, revision, found, baked]);
    const skinned = usePieces((s) => prop !== null && s.byProp[prop.id]?.skinned === true);
    const both = useUi((s) => s.effect && s.show === 'weight');
    useEffect(() => {
        if (shot === undefined || map === null || !both) {
            forgetWorn();
            return;
        }
        return followWorn(shot, map.id, skinned ? 'skin' : 'pieces');
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [shot, map?.id, revision, found, baked, both, skinned]);
    useEffect(() => {
        void fillShown();
        void fillWorn();
    }, [frame]);
}

function lengthsOf(prop: string): Record<string, Record<string, unknown>> {
    return usePieces.getState().byProp[prop]?.lengths.weights ?? {};
}

/** The middle of a prop, in its own coordinates and in the scene. */
function middleOf(prop: Prop): { own: number[]; scene: number[] } {
    const pieces = usePieces.getState().byProp[prop.id]?.pieces ?? [];
    const all = pieces.reduce((sum, p) => sum + p.volume, 0) || 1;
    const own = [0, 1, 2].map((a) => pieces.reduce((sum, p) => sum + (p.volume / all) * p.centre[a]!, 0));
    const round = (v: number) => Number(v.toFixed(3));
    return { own: own.map(round), scene: inScene(poseAt(prop, useUi.getState().frame, currentMoments()), own).map(round) };
}
