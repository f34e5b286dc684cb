import { useQueryClient } from '@tanstack/react-query';
import { FolderInput } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { api, type ShotCard } from '../data/api';
import { said } from '../data/said';
import { Button, Toggle } from '../parts/controls';
import { TEMPLATE } from './order';

/** Puts a shot into a folder, marks it with tags, or makes it one to begin others from. */
export function PlaceOf({ shot, folders }: { shot: ShotCard; folders: readonly string[] }) {
    const queries = useQueryClient();
    const [open, setOpen] = useState(false);
    const [folder, setFolder] = useState(shot.folder);
    const [tags, setTags] = useState(shot.tags.join(', '));
    const put = async (now: { folder?: string; tags?: readonly string[] }) => {
        try {
            await api.placeShot(shot.id, now);
            await queries.invalidateQueries({ queryKey: ['shots'] });
        } catch (e) {
            said(e);
        }
    };
    const list = (words: string) => words.split(',').map((t) => t.trim()).filter((t) => t !== '');
    return (
        <Popover.Root open={open} onOpenChange={setOpen}>
            <Popover.Trigger className="flex items-center gap-1 px-1.5 py-0.5 text-[12px] text-soft hover:text-ink" aria-label={`Sort in ${shot.name}: folder and tags`}><FolderInput size={12} aria-hidden /> Sort in</Popover.Trigger>
            <Popover.Portal>
                <Popover.Content sideOffset={4} align="start" aria-label={`Folder and tags of ${shot.name}`} className="z-50 w-[280px] border border-line bg-paper p-3 text-ink">
                    <form className="space-y-2" onSubmit={(e) => { e.preventDefault(); void put({ folder, tags: list(tags) }); setOpen(false); }}>
                        <label className="flex items-center gap-2">
                            <span className="w-[54px]">Folder</span>
                            <input aria-label="Folder" list="yard-folders" value={folder} maxLength={60} onChange={(e) => setFolder(e.target.value)} placeholder="none" className="h-[28px] min-w-0 flex-1 border border-line bg-raised px-2" />
                            <datalist id="yard-folders">{folders.map((f) => <option key={f} value={f} />)}</datalist>
                        </label>
                        <label className="flex items-center gap-2">
                            <span className="w-[54px]">Tags</span>
                            <input aria-label="Tags" value={tags} onChange={(e) => setTags(e.target.value)} placeholder="with commas between" className="h-[28px] min-w-0 flex-1 border border-line bg-raised px-2" />
                        </label>
                        <Toggle label="Others can begin from it" hint="It is offered beside New shot" value={list(tags).includes(TEMPLATE)} onChange={(on) => setTags((on ? [...list(tags), TEMPLATE] : list(tags).filter((t) => t !== TEMPLATE)).join(', '))} />
                        <div className="flex justify-end"><Button type="submit" tone="loud">Keep</Button></div>
                    </form>
                </Popover.Content>
            </Popover.Portal>
        </Popover.Root>
    );
}
