import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useState } from 'react';
import { api } from '../data/api';
import { staleFrom, useBake } from '../data/bake';
import { useShot } from '../data/shot';
import { said } from '../data/said';
import { Button, Fact, Fault, Section } from '../parts/controls';
import { show } from '../data/quantity';
import { BenchHead } from './BenchHead';

const FORMATS: { id: string; name: string; what: string }[] = [
    { id: 'glb', name: 'GLB, animated', what: 'One file: a node a piece with its motion baked in, outer and inner material.' },
    { id: 'obj', name: 'OBJ sequence', what: 'A file a frame, packed as zip. Groups for outer and inner faces.' },
    { id: 'stl', name: 'STL shards', what: 'A file a piece as it stands before release, packed as zip.' },
    { id: 'ply', name: 'PLY shards', what: 'The same in double precision.' },
    { id: 'grains', name: 'Dust, PLY', what: 'Points, a file a frame, packed as zip: place, size, age and colour of each grain and chip.' },
    { id: 'instances', name: 'Dust, GLB', what: 'A file a frame: grains as points, chips as instances of their shape.' },
    { id: 'nodes', name: 'Dust, GLB for older readers', what: 'The same with a node for each chip.' },
];

export function HandOffStage() {
    const bake = useBake((s) => s.bake);
    const shot = useShot((s) => s.shot?.id);
    const queries = useQueryClient();
    const [format, setFormat] = useState('glb');
    const list = useQuery({
        queryKey: ['hand-offs', bake?.id],
        queryFn: () => api.handOffs(bake!.id),
        enabled: bake !== null,
        refetchInterval: (q) => (q.state.data?.sent.some((h) => h.state === 'queued') ? 300 : false),
    });
    const write = async () => {
        try {
            await api.handOff(bake!.id, format);
            await queries.invalidateQueries({ queryKey: ['hand-offs', bake!.id] });
        } catch (e) {
            said(e);
        }
    };
    return (
        <>
            <BenchHead help="hand-off" title="Hand-off" under="Files other departments can open" />
            {bake === null || bake.framesDone === 0 ? (
                <p className="px-4 py-4 text-soft">There is nothing to hand off yet. Bake the shot first (B).</p>
            ) : (
                <>
                    <Section title="Format">
                        <div role="radiogroup" aria-label="Format" className="space-y-1.5">
                            {FORMATS.map((f) => (
                                <button key={f.id} type="button" role="radio" aria-checked={format === f.id} onClick={() => setFormat(f.id)} className={`quick block w-full border px-3 py-2 text-left ${format === f.id ? 'border-chosen bg-chosen text-on-chosen' : 'border-line bg-raised hover:border-ink'}`}>
                                    <span className="block font-semibold">{f.name}</span>
                                    <span className={format === f.id ? 'opacity-75' : 'text-soft'}>{f.what}</span>
                                </button>
                            ))}
                        </div>
                    </Section>
                    <Section title="Contents">
                        <Fact name="frames">{bake.first}–{bake.first + bake.framesDone - 1}</Fact>
                        <Fact name="pieces">{bake.pieces}</Fact>
                        <Fact name="axes, unit">y up, metres</Fact>
                        {staleFrom(bake) !== null && <p className="mt-1.5 text-doubt">▲ The bake is no longer true from frame {staleFrom(bake)} on{bake.plan.what && `: ${bake.plan.what} has changed`}. What leaves is the bake as it is.</p>}
                        {bake.state !== 'done' && <p className="mt-1.5 text-doubt">▲ The bake is not finished; only the frames so far leave.</p>}
                        {(list.data?.leaves[format] ?? []).map((words) => <p key={words} className="mt-1.5 text-doubt">▲ {words}</p>)}
                        <Button tone="loud" className="mt-2.5 w-full" onClick={() => void write()}>Write {FORMATS.find((f) => f.id === format)!.name}</Button>
                    </Section>
                    <Section title="Written" aside={list.data ? String(list.data.sent.length) : ''}>
                        {list.data?.sent.length === 0 && <p className="text-soft">Nothing yet.</p>}
                        <ul className="space-y-1.5">
                            {list.data?.sent.map((h) => (
                                <li key={h.id} className="flex items-center justify-between gap-2 border border-line bg-raised px-2.5 py-1.5">
                                    <span className="min-w-0">
                                        <span className="block truncate font-medium">{h.file ?? h.format.toUpperCase()}</span>
                                        <span className="figure text-[11px] text-soft">{h.state === 'done' ? show(h.bytes, 'B') : h.state === 'failed' ? '' : `writing… ${show(h.share, '%')}`} {new Date(h.at).toLocaleTimeString()}</span>
                                    </span>
                                    {h.state === 'done' && <a href={`api/hand-offs/${h.id}/file`} download className="quick flex h-[27px] items-center gap-1 border border-line px-2 hover:border-ink"><Download size={13} aria-hidden /> Save</a>}
                                    {h.state === 'failed' && <Fault message={h.problem?.message ?? 'It failed.'} remedy={h.problem?.remedy} />}
                                </li>
                            ))}
                        </ul>
                    </Section>
                </>
            )}
            <Section title="The shot itself">
                <a href={`api/shots/${shot}/export`} download className="quick inline-flex h-[29px] items-center gap-1.5 border border-line bg-raised px-3 hover:border-ink"><Download size={13} aria-hidden /> Export shot</a>
                <p className="mt-1.5 text-soft">Its document and meshes in one zip, to open in another yard.</p>
            </Section>
        </>
    );
}
