import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Flag, ListRestart } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { api, type History } from '../data/api';
import { said } from '../data/said';
import { useShot } from '../data/shot';
import { ago } from '../data/time';

/** What was done to the shot, as a list: a press goes there; a state may have a name. */
export function HistoryPlate({ id, revision }: { id: string; revision: number }) {
    const [open, setOpen] = useState(false);
    useHotkeys('mod+alt+z', () => setOpen(true), { preventDefault: true });
    useEffect(() => {
        const show = () => setOpen(true);
        window.addEventListener('yard-history', show);
        return () => window.removeEventListener('yard-history', show);
    }, []);
    return (
        <Popover.Root open={open} onOpenChange={setOpen}>
            <Popover.Trigger aria-label="What was done" title="What was done, as a list" className="p-1.5"><ListRestart size={16} /></Popover.Trigger>
            <Popover.Portal>
                <Popover.Content sideOffset={6} align="start" className="z-50 max-h-[70vh] w-[380px] overflow-auto border border-line bg-paper p-1.5 text-ink" aria-label="What was done">
                    {open && <Steps id={id} revision={revision} />}
                </Popover.Content>
            </Popover.Portal>
        </Popover.Root>
    );
}

function Steps({ id, revision }: { id: string; revision: number }) {
    const client = useQueryClient();
    const key = ['history', id, revision];
    const { data } = useQuery({ queryKey: key, queryFn: () => api.history(id), placeholderData: (before) => before });
    const [naming, setNaming] = useState<number | null>(null);
    if (data === undefined) return <p className="p-2 text-soft">…</p>;
    const here = data.edits.find((e) => !e.undone)?.id ?? 0;
    const go = (edit: number) => void useShot.getState().goTo(edit);
    const name = async (edit: number, words: string) => {
        setNaming(null);
        try {
            client.setQueryData(key, await api.nameState(id, edit, words));
        } catch (e) {
            said(e);
        }
    };
    return (
        <ol aria-label="States of the shot">
            {data.edits.map((e) => (
                <li key={e.id} className={`flex items-center ${e.id === here ? 'bg-wash' : ''}`}>
                    {naming === e.id ? <NameField of={e} onDone={(words) => void name(e.id, words)} onLeave={() => setNaming(null)} /> : <State shot={id} of={e} here={e.id === here} onGo={() => go(e.id)} />}
                    <button type="button" aria-label={`Name the state after ${e.label}`} title="Name this state" onClick={() => setNaming(e.id)} className="self-stretch p-2 text-soft hover:text-ink"><Flag size={13} /></button>
                </li>
            ))}
            <li className={`flex items-center pr-[29px] ${here === 0 ? 'bg-wash' : ''}`}>
                {data.more > 0
                    ? <p className="px-2 py-1 text-soft">{data.more} more before these.</p>
                    : <State shot={id} of={{ id: 0, label: 'As it began', name: '', undone: false, at: data.begun, picture: data.picture }} here={here === 0} onGo={() => go(0)} />}
            </li>
        </ol>
    );
}

function State({ shot, of: e, here, onGo }: { shot: string; of: History['edits'][number]; here: boolean; onGo: () => void }) {
    return (
        <button type="button" aria-current={here ? 'step' : undefined} onClick={onGo} className={`flex min-w-0 flex-1 items-center gap-2 px-2 py-1 text-left hover:bg-wash ${e.undone ? 'text-soft' : ''}`}>
            <span aria-hidden className="figure w-2 text-[11px]">{here ? '●' : ''}</span>
            {e.picture
                ? <img src={`api/shots/${shot}/history/${e.id}/picture`} alt="" loading="lazy" className={`h-[40px] w-[64px] shrink-0 border border-line object-cover ${e.undone ? 'opacity-60' : ''}`} />
                : <span aria-hidden className="h-[40px] w-[64px] shrink-0 border border-dotted border-line" />}
            <span className="min-w-0 flex-1 truncate">{e.name !== '' && <strong className="font-semibold">{e.name} · </strong>}{e.label}</span>
            <span className="figure shrink-0 text-[11px] text-soft">{e.undone ? 'undone' : ago(e.at)}</span>
        </button>
    );
}

function NameField({ of: e, onDone, onLeave }: { of: History['edits'][number]; onDone: (words: string) => void; onLeave: () => void }) {
    return (
        <input
            autoFocus
            aria-label={`Name of the state after ${e.label}`}
            defaultValue={e.name}
            maxLength={80}
            placeholder="client liked this"
            onBlur={(event) => onDone(event.target.value)}
            onKeyDown={(event) => {
                event.stopPropagation();
                if (event.key === 'Enter') event.currentTarget.blur();
                if (event.key === 'Escape') onLeave();
            }}
            className="m-0.5 h-[26px] min-w-0 flex-1 border border-line bg-raised px-2"
        />
    );
}
