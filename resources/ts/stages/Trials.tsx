import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api } from '../data/api';
import { useShot } from '../data/shot';
import { ago } from '../data/time';
import { Button, Section } from '../parts/controls';
import { TryWindow } from './TryWindow';

/** What was tried of the shot, and the way to try more; and its bakes against each other. */
export function Trials() {
    const id = useShot((s) => s.shot?.id ?? '');
    const empty = useShot((s) => s.shot?.document.props.length === 0);
    const [open, setOpen] = useState(false);
    const { data: trials } = useQuery({ queryKey: ['trials', id], queryFn: () => api.trials(id), refetchInterval: (q) => (q.state.data?.some((t) => t.open) ? 1500 : false) });
    return (
        <Section title="Trials">
            <p className="mb-2 text-soft">Several values or seeds baked in one go, as pictures in sync. The shot stays as it is until one is chosen.</p>
            <div className="flex flex-wrap gap-2">
                <Button disabled={empty} onClick={() => setOpen(true)}>Try values…</Button>
                <Link to={`/shots/${id}/compare`} className="quick inline-flex h-[29px] items-center border border-line bg-raised px-3 hover:border-ink">Compare bakes</Link>
            </div>
            {trials !== undefined && trials.length > 0 && (
                <ul aria-label="Trials" className="mt-2">
                    {trials.map((t) => (
                        <li key={t.id} className="border-b border-dotted border-line">
                            <Link to={`/shots/${id}/trials/${t.id}`} className="flex items-baseline gap-2 py-1 hover:underline">
                                <span className="min-w-0 flex-1 truncate">{t.name}</span>
                                <span className="figure shrink-0 text-[11px] text-soft">{t.open ? `◔ ${t.done} of ${t.count}` : `${t.count} · ${ago(t.at)}`}</span>
                            </Link>
                        </li>
                    ))}
                </ul>
            )}
            {open && <TryWindow shot={id} onClose={() => setOpen(false)} />}
        </Section>
    );
}
