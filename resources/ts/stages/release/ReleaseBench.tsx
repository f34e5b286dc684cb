import { Trash2 } from 'lucide-react';
import { useEffect } from 'react';
import { useBake } from '../../data/bake';
import type { Option } from '../../data/api';
import type { Prop, Release } from '../../data/document';
import { defaultsOf } from '../../data/options';
import { askForecast, useForecast } from '../../data/forces';
import { askOrder, spanOf, useOrder } from '../../data/order';
import { usePieces } from '../../data/pieces';
import { editProp, useDocument, useShot } from '../../data/shot';
import { letsGo } from '../../data/motion';
import { useUi } from '../../data/ui';
import { useCatalogue } from '../../data/useCatalogue';
import { AddMenu } from '../../parts/AddMenu';
import { Button, Choice, Section, Select, Toggle } from '../../parts/controls';
import { NumberField } from '../../parts/NumberField';
import { orderColour } from '../../parts/sizes';
import { ComesApart } from '../FallWays';
import { Options } from '../Options';
import { AfterBake } from './AfterBake';
import { ClothFacts } from './ClothFacts';
import { ContactFacts } from './ContactFacts';
import { Held } from './Held';
import { MORTAR, MortarBench } from './MortarBench';
import { ReleaseForm } from './ReleaseForm';

const AT_ONCE: Release = { on: 'frame', frame: 0 };

/** All about how the pieces of a free prop are let go. */
export function ReleaseBench({ prop }: { prop: Prop }) {
    const m = prop.motion;
    const broken = prop.break != null;
    const movers = useCatalogue()?.movers ?? {};
    const options = movers[m.kind]?.options ?? [];
    const values = m.values ?? {};
    return (
        <>
            <Section title="Release">
                {broken && m.drift === undefined && options.some((o) => o.name === 'held') && (
                    <div className="mb-1">
                        <p className="mb-1">Until released its pieces</p>
                        <Choice label="Until released" value={values.held === 'whole' ? 'whole' : 'still'} onChange={(v) => void editProp(prop.id, 'Until released', { '/motion/values/held': v })} options={[{ value: 'still', label: 'stay in place', hint: 'or follow its keys' }, { value: 'whole', label: 'move as one', hint: 'falls as the unbroken prop' }]} />
                    </div>
                )}
                {broken && <ComesApart prop={prop} />}
                <ReleaseForm prop={prop} release={m.release ?? AT_ONCE} path="motion/release" />
                {broken && <Order prop={prop.id} />}
                <Options prop={prop} path="motion" options={options.filter((o) => !o.keyable && o.part === '' && o.name !== 'held' && (broken || !o.ofPieces))} values={values} label={prop.name} />
                {options.some((o) => o.name === 'shape') && <ContactFacts prop={prop} />}
                {movers[m.kind]?.waves === true && <ClothFacts prop={prop} />}
            </Section>
            {broken && <MortarBench prop={prop} options={options} />}
            <Parts prop={prop} options={options.filter((o) => broken || !o.ofPieces)} />
            {movers[m.kind]?.waves === true && <AfterBake prop={prop} />}
            {broken && <FollowFields prop={prop} />}
            {broken && <Groups prop={prop} />}
            <Pushes prop={prop} />
        </>
    );
}

/** What else can be set of how its pieces go, by what it is about; mortar has a bench of its own. */
function Parts({ prop, options }: { prop: Prop; options: readonly Option[] }) {
    const parts = [...new Set(options.map((o) => o.part))].filter((part) => part !== '' && part !== MORTAR);
    return (
        <>
            {parts.map((part) => (
                <Section key={part} title={part}>
                    <Options prop={prop} path="motion" options={options.filter((o) => o.part === part)} values={prop.motion.values ?? {}} label={prop.name} />
                    {options.some((o) => o.part === part && o.name === 'hold') && <Held prop={prop} />}
                    {options.some((o) => o.part === part && ['meets', 'itself'].includes(o.name)) && <Passes prop={prop} />}
                </Section>
            ))}
        </>
    );
}

/** The props it passes through. */
function Passes({ prop }: { prop: Prop }) {
    const others = useDocument()?.props.filter((p) => p.id !== prop.id && !p.hidden) ?? [];
    const passes = prop.motion.passes ?? [];
    const set = (next: readonly string[]) => void editProp(prop.id, 'Passes through', { '/motion/passes': next });
    if (others.length === 0) return null;
    return (
        <>
            <Select label="Passes through" value="" options={[{ value: '', label: passes.length === 0 ? 'nothing' : passes.length === 1 ? '1 prop' : `${passes.length} props` }, ...others.filter((p) => !passes.includes(p.id)).map((p) => ({ value: p.id, label: p.name }))]} onChange={(id) => id !== '' && set([...passes, id])} />
            {passes.map((id) => (
                <div key={id} className="flex items-center gap-2 pl-2">
                    <span className="min-w-0 flex-1 truncate text-soft">{others.find((p) => p.id === id)?.name ?? id}</span>
                    <button type="button" aria-label={`Meet ${others.find((p) => p.id === id)?.name ?? id} again`} className="text-soft hover:text-ink" onClick={() => set(passes.filter((p) => p !== id))}><Trash2 size={13} aria-hidden /></button>
                </div>
            ))}
        </>
    );
}

/** The order in which its pieces go, as far as that can be told without a bake. */
function Order({ prop }: { prop: string }) {
    const shot = useShot((s) => s.shot?.id);
    const revision = useShot((s) => s.shot?.revision);
    const found = useBake((s) => s.found);
    const { prop: of, frames } = useOrder();
    const { show, set } = useUi();
    useEffect(() => {
        if (shot === undefined) return;
        const stop = askOrder(shot, prop);
        return () => {
            stop();
            if (useUi.getState().show === 'order' && useUi.getState().chosen !== prop) useUi.getState().set({ show: null });
        };
        // Only a saved revision counts.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [shot, prop, revision, found]);
    if (of !== prop || frames === null) return null;
    const span = spanOf(frames);
    const untold = frames.filter((f) => f === null).length;
    const on = show === 'order';
    return (
        <div className="mt-2 border-t border-dotted border-line pt-2">
            {span === null ? <p className="text-soft">Which piece goes when is found by the bake.</p> : (
                <button type="button" aria-pressed={on} aria-label="Show the order in the picture" className="block w-full text-left" onClick={() => set({ show: on ? null : 'order' })}>
                    <span className="flex items-baseline justify-between"><span className={on ? 'font-medium' : ''}>{on ? 'Shown in the picture' : 'Order; press to show it'}</span><span className="figure text-[11px] text-soft">frame {span[0]} – {span[1]}</span></span>
                    <span className="mt-1 flex h-[9px] border border-line">{STEPS.map((k) => <span key={k} className="flex-1" style={{ background: `rgb(${orderColour(k / (STEPS.length - 1)).map(Math.round).join(' ')})` }} />)}</span>
                </button>
            )}
            {span !== null && untold > 0 && <p className="mt-1 text-soft">{untold === 1 ? 'One piece stays' : `${untold} pieces stay`}, or {untold === 1 ? 'is' : 'are'} let go by what only a bake can tell.</p>}
        </div>
    );
}

const STEPS = Array.from({ length: 24 }, (_, k) => k);

/** What the pieces beside those that went do. */
function FollowFields({ prop }: { prop: Prop }) {
    const follow = prop.motion.follow ?? null;
    const set = (label: string, next: NonNullable<typeof follow> | null) => void editProp(prop.id, label, { '/motion/follow': next });
    const anchors = prop.motion.anchors ?? [];
    const picked = usePickedNames(prop.id);
    return (
        <Section title="What follows">
            <Toggle label="What lost its support goes too" hint="Pieces that hang on nothing that is held do not stay in the air" value={follow?.unsupported ?? false} onChange={(unsupported) => set('What lost its support', unsupported || follow?.after != null ? { after: null, ...follow, unsupported } : null)} />
            <Toggle label="Neighbours follow" hint="Pieces beside one that went go after it" value={follow?.after != null} onChange={(on) => set('Neighbours follow', on ? { ...follow, after: 0.1 } : follow?.unsupported ? { ...follow, after: null } : null)} />
            {follow?.after != null && <NumberField label="After" unit="s" least={0} most={1000} step={0.02} value={follow.after} onChange={(after) => set('Neighbours follow after', { ...follow, after })} />}
            {follow?.after != null && <NumberField label="Random wait" hint="Each waits a while of its own, at most this long" unit="s" least={0} most={1000} step={0.02} value={follow.wait ?? 0} onChange={(wait) => set('Neighbours wait', { ...follow, wait })} />}
            <div className="mt-1 flex items-center gap-1.5">
                <span className="min-w-0 flex-1" title="Pieces that stay held whatever happens">Anchors <span className="figure text-[11px] text-soft">{anchors.length === 0 ? 'none' : anchors.length}</span></span>
                <Button disabled={picked.length === 0} hint="Pick pieces in the picture first" onClick={() => void editProp(prop.id, 'Anchor pieces', { '/motion/anchors': [...new Set([...anchors, ...picked])] })}>{picked.length === 0 ? 'Pick pieces' : `Anchor ${picked.length} picked`}</Button>
                {anchors.length > 0 && <Button onClick={() => void editProp(prop.id, 'No anchors', { '/motion/anchors': [] })}>Free</Button>}
            </div>
            <AnchoredBy prop={prop} />
        </Section>
    );
}

/** What anchors pieces beside those that are picked. */
function AnchoredBy({ prop }: { prop: Prop }) {
    const by = prop.motion.anchoredBy ?? {};
    const document = useDocument();
    const set = (label: string, next: typeof by) => void editProp(prop.id, label, { '/motion/anchoredBy': { ...by, ...next } });
    const maps = prop.weights ?? [];
    const touching = by.touching ?? [];
    const others = (document?.props ?? []).filter((p) => p.id !== prop.id && !p.hidden && !letsGo(p.motion));
    const name = (id: string) => (id === 'ground' ? 'the ground' : (others.find((p) => p.id === id)?.name ?? id));
    return (
        <>
            {(maps.length > 0 || by.map) && <Select label="Also where" value={by.map ?? ''} options={[{ value: '', label: 'nowhere' }, ...maps.map((m) => ({ value: m.id, label: `the map ${m.name} is` }))]} onChange={(map) => set('Anchored by a map', { map })} />}
            {by.map && <NumberField slider label="No less than" hint="At the first frame" unit="%" least={0} most={1} value={by.level ?? 0.5} onChange={(level) => set('Anchored by a map', { level })} />}
            <Select label="Also what touches" value={touching.length === 0 ? '' : touching.length === 1 ? touching[0]! : 'several'} options={[{ value: '', label: 'nothing' }, ...(document?.world.ground ? [{ value: 'ground', label: 'the ground' }] : []), ...others.map((p) => ({ value: p.id, label: p.name })), ...(touching.length > 1 ? [{ value: 'several', label: touching.map(name).join(', ') }] : [])]} onChange={(id) => (id === 'several' ? undefined : set('Anchored by touch', { touching: id === '' ? [] : [id] }))} />
        </>
    );
}

/** Pieces let go in a way of their own. */
function Groups({ prop }: { prop: Prop }) {
    const groups = prop.motion.groups ?? [];
    const picked = usePickedNames(prop.id);
    const set = useUi((s) => s.set);
    const pieces = usePieces((s) => s.byProp[prop.id]?.pieces);
    const add = () => {
        const taken = new Set(groups.map((g) => g.name));
        let n = groups.length + 1;
        while (taken.has(`Group ${n}`)) n++;
        void editProp(prop.id, `A group of ${picked.length} pieces`, { '/motion/groups': [...groups, { name: `Group ${n}`, pieces: picked, release: { on: 'frame', frame: useUi.getState().frame } }] });
    };
    return (
        <Section title="Groups" aside={<Button disabled={picked.length === 0} onClick={add} hint="Pieces picked in the picture are let go in a way of their own">{picked.length === 0 ? 'Pick pieces for one' : `Group ${picked.length} picked`}</Button>}>
            {groups.length === 0 && <p className="text-soft">All pieces are let go alike.</p>}
            {groups.map((g, i) => (
                <div key={i} role="group" aria-label={g.name} className="mb-1.5 border border-line bg-raised px-2.5 py-1">
                    <div className="flex items-center gap-2">
                        <button type="button" className="min-w-0 flex-1 truncate text-left font-medium hover:underline" title="Show its pieces" onClick={() => set({ picked: g.pieces.flatMap((name) => { const k = pieces?.findIndex((p) => p.name === name) ?? -1; return k < 0 ? [] : [k]; }) })}>{g.name}</button>
                        <span className="figure text-[11px] text-soft">{g.pieces.length === 1 ? '1 piece' : `${g.pieces.length} pieces`}</span>
                        <button type="button" aria-label={`Remove ${g.name}`} className="text-soft hover:text-ink" onClick={() => void editProp(prop.id, `Remove ${g.name}`, { '/motion/groups': groups.filter((_, k) => k !== i) })}><Trash2 size={13} aria-hidden /></button>
                    </div>
                    <ReleaseForm prop={prop} release={g.release} path={`motion/groups/${i}/release`} />
                </div>
            ))}
        </Section>
    );
}

/** What pieces are sent off with. */
function Pushes({ prop }: { prop: Prop }) {
    const catalogue = useCatalogue();
    const options = catalogue?.movers[prop.motion.kind]?.options ?? [];
    const pushes = prop.motion.pushes ?? [];
    const maps = prop.weights ?? [];
    return (
        <Section title="Push at release" aside={catalogue && <AddMenu label="push" entries={catalogue.pushes} onAdd={(push) => void editProp(prop.id, `Push ${catalogue.pushes[push]!.label.toLowerCase()}`, { '/motion/pushes': [...pushes, { push, values: defaultsOf(catalogue.pushes[push]) }] })} />}>
            <Options prop={prop} path="motion" options={options.filter((o) => o.keyable && o.part === '')} values={prop.motion.values ?? {}} label={prop.name} />
            <Flight prop={prop} />
            {pushes.map((push, k) => {
                const entry = catalogue?.pushes[push.push];
                return (
                    <div key={k} className="mb-1.5 border border-line bg-raised px-2.5 py-1">
                        <div className="flex items-center gap-2">
                            <span className="font-medium">{entry?.label ?? push.push}</span>
                            <span className="min-w-0 flex-1 truncate text-soft">{entry?.meaning}</span>
                            <button type="button" aria-label={`Remove the push ${entry?.label ?? push.push}`} className="text-soft hover:text-ink" onClick={() => void editProp(prop.id, 'Remove a push', { '/motion/pushes': pushes.filter((_, i) => i !== k) })}><Trash2 size={13} aria-hidden /></button>
                        </div>
                        <Options prop={prop} path={`motion/pushes/${k}`} options={entry?.options ?? []} values={push.values as Record<string, unknown>} label={entry?.label ?? push.push} />
                        {maps.length > 0 && <Select label="As much as" value={push.map ?? ''} options={[{ value: '', label: 'all of it' }, ...maps.map((m) => ({ value: m.id, label: `the map ${m.name}` }))]} onChange={(map) => void editProp(prop.id, 'Push by a map', { [`/motion/pushes/${k}/map`]: map === '' ? null : map })} />}
                    </div>
                );
            })}
        </Section>
    );
}

/** How a picked piece would fly, in words; the picture shows its way. */
function Flight({ prop }: { prop: Prop }) {
    const shot = useShot((s) => s.shot?.id);
    const revision = useShot((s) => s.shot?.revision);
    const { frame, playing } = useUi();
    const picked = useUi((s) => (s.chosen === prop.id ? s.picked : NONE));
    const whole = usePieces((s) => (s.byProp[prop.id]?.pieces.length ?? 0) === 1);
    const piece = whole ? 0 : picked.length === 1 ? picked[0]! : null;
    const { of, words } = useForecast();
    useEffect(() => {
        if (shot === undefined || piece === null || playing) return;
        return askForecast(shot, prop.id, piece, frame);
        // Only a saved revision counts.
        // oxlint-disable-next-line react-hooks/exhaustive-deps
    }, [shot, prop.id, piece, revision, frame, playing]);
    if (piece === null) return <p className="text-soft">Pick one piece to see how it would fly.</p>;
    return of?.prop === prop.id && of.piece === piece && words !== '' ? <p role="status" aria-label="How it would fly">{words}</p> : null;
}

/** Names of the pieces of a prop that are picked in the picture. */
function usePickedNames(prop: string): string[] {
    const picked = useUi((s) => (s.chosen === prop ? s.picked : NONE));
    const pieces = usePieces((s) => s.byProp[prop]?.pieces);
    return picked.flatMap((k) => pieces?.[k]?.name ?? []);
}

const NONE: readonly number[] = [];
