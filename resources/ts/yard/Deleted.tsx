import { useQuery, useQueryClient } from '@tanstack/react-query';
import { api } from '../data/api';
import { said } from '../data/said';
import { Button } from '../parts/controls';

/** Shots that were deleted and can still be had back, and for how long. */
export function Deleted() {
    const queries = useQueryClient();
    const { data } = useQuery({ queryKey: ['deleted'], queryFn: api.deletedShots, staleTime: 0, refetchOnMount: 'always' });
    if (data === undefined) return null;
    if (data.length === 0) return <p className="border border-line bg-paper p-8 text-center text-soft">Nothing was deleted lately. What is deleted can be had back for a day.</p>;
    const back = async (id: string) => {
        try {
            await api.restoreShot(id);
            await Promise.all([queries.invalidateQueries({ queryKey: ['deleted'] }), queries.invalidateQueries({ queryKey: ['shots'] })]);
        } catch (e) {
            said(e);
        }
    };
    return (
        <ul aria-label="Deleted shots" className="border border-line bg-paper">
            {data.map((s) => (
                <li key={s.id} className="flex items-center gap-3 border-b border-line px-4 py-2 last:border-b-0">
                    <span className="min-w-0 flex-1 truncate font-semibold">{s.name}</span>
                    <span className="figure text-[12px] text-soft">{left(s.until)}</span>
                    <Button onClick={() => void back(s.id)} aria-label={`Bring ${s.name} back`}>Bring back</Button>
                </li>
            ))}
        </ul>
    );
}

function left(until: string): string {
    const hours = (Date.parse(until) - Date.now()) / 3.6e6;
    return hours <= 0 ? 'goes any moment' : hours < 1 ? `${Math.ceil(60 * hours)} minutes left` : `${Math.round(hours)} hours left`;
}
