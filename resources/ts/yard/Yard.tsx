import { useQuery, useQueryClient } from '@tanstack/react-query';
import { PackageOpen, Plus } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { api, ProblemError, type ShotCard, type ShotView } from '../data/api';
import { useLesson } from '../data/lesson';
import { said } from '../data/said';
import { applyTheme, useUi } from '../data/ui';
import { plate, ThemeButton } from '../frame/ThemeButton';
import { Button, Fault } from '../parts/controls';
import { Logo } from '../parts/Logo';
import { Card } from './Card';
import { Deleted } from './Deleted';
import { Lessons } from './Lessons';
import { foldersOf, sought, TEMPLATE } from './order';
import { Room } from './Room';
import { Shelf, type Seen } from './Shelf';
import { useCardPictures } from './useCardPictures';

/** The list of shots. */
export function Yard() {
    const shots = useQuery({ queryKey: ['shots'], queryFn: api.shots, staleTime: 0, refetchOnMount: 'always', refetchInterval: (q) => (q.state.data?.some((s) => s.bake?.state === 'running' || s.bake?.state === 'queued') ? 700 : false) });
    const queries = useQueryClient();
    const go = useNavigate();
    const file = useRef<HTMLInputElement>(null);
    const theme = useUi((s) => s.theme);
    useEffect(() => applyTheme(theme), [theme]);
    useCardPictures(shots.data);
    const dismissed = useLesson((s) => s.dismissed);
    const [seen, setSeen] = useState<Seen>({ folder: null, deleted: false, words: '', by: 'changed' });
    const all = shots.data ?? [];
    const folders = foldersOf(all);
    // A folder that was emptied is no more.
    const found = sought(all, seen.folder !== null && folders.includes(seen.folder) ? seen.folder : null, seen.words, seen.by);
    const templates = all.filter((s) => s.tags.includes(TEMPLATE));

    async function run(work: Promise<ShotView>, open: boolean): Promise<void> {
        try {
            const shot = await work;
            await queries.invalidateQueries({ queryKey: ['shots'] });
            if (open) void go(`/shots/${shot.id}`);
        } catch (e) {
            said(e);
        }
    }

    async function remove(shot: ShotCard): Promise<void> {
        await api.deleteShot(shot.id);
        await Promise.all([queries.invalidateQueries({ queryKey: ['shots'] }), queries.invalidateQueries({ queryKey: ['space'] })]);
        toast(`${shot.name} was deleted.`, { action: { label: 'Undo', onClick: () => void run(api.restoreShot(shot.id), false) } });
    }

    return (
        <div className="grid h-full grid-rows-[44px_1fr]">
            <header className="flex items-center gap-4 bg-bar px-3.5 text-[#f6f4ef]">
                <Logo />
                <span className="flex-1" />
                {dismissed && <button type="button" className={plate} onClick={() => useLesson.getState().offer()}>Lessons</button>}
                <ThemeButton />
            </header>
            <main className="overflow-auto px-8 py-7">
                <div className="mx-auto max-w-[1120px]">
                    <div className="mb-5 flex items-end justify-between gap-4">
                        <div>
                            <h1 className="text-[26px] leading-8 font-extrabold">Yard</h1>
                            <p className="text-soft">Every shot that is being taken apart here.</p>
                        </div>
                        <div className="flex gap-2">
                            <input ref={file} type="file" accept=".zip" className="sr-only" tabIndex={-1} aria-label="Packed shot" onChange={(e) => {
                                const f = e.target.files?.[0];
                                e.target.value = '';
                                if (f) void run(api.importShot(f), true);
                            }} />
                            <Button onClick={() => file.current?.click()}><PackageOpen size={14} aria-hidden /> Import a shot…</Button>
                            {templates.length > 0 && (
                                <select aria-label="New shot from" value="" onChange={(e) => void run(api.newShot({ from: e.target.value }), true)} className="h-[29px] max-w-[190px] border border-line bg-raised px-1.5">
                                    <option value="" disabled>New shot from…</option>
                                    {templates.map((s) => <option key={s.id} value={s.id}>{s.name}</option>)}
                                </select>
                            )}
                            <Button tone="loud" onClick={() => void run(api.newShot(), true)}><Plus size={14} aria-hidden /> New shot</Button>
                        </div>
                    </div>
                    {shots.error instanceof ProblemError && <Fault message={shots.error.problem.message} remedy={shots.error.problem.remedy} />}
                    <Lessons />
                    {shots.data?.length === 0 && (
                        <div className="border border-line bg-paper p-8 text-center">
                            <p className="mb-3">The yard is empty. Start a shot of your own, or look at the demo.</p>
                            <Button onClick={() => void run(api.newShot({ demo: 'terracotta-jar' }), true)}>Open the demo: Terracotta jar</Button>
                        </div>
                    )}
                    {(all.length > 0 || seen.deleted) && <Shelf seen={seen} folders={folders} onChange={setSeen} />}
                    {seen.deleted ? <Deleted /> : found.length === 0 && all.length > 0 && <p className="border border-line bg-paper p-8 text-center text-soft">No shot here is called so, has such a tag, or such a prop.</p>}
                    {!seen.deleted && <ul aria-label="Shots" className="grid grid-cols-[repeat(auto-fill,minmax(255px,1fr))] gap-4">
                        {found.map((s) => <Card key={s.id} shot={s} folders={folders} onCopy={() => void run(api.newShot({ from: s.id }), false)} onRemove={() => void remove(s)} />)}
                    </ul>}
                    <Room />
                </div>
            </main>
        </div>
    );
}
