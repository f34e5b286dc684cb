import { useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api } from '../data/api';
import { show } from '../data/quantity';
import { said } from '../data/said';
import { Button } from '../parts/controls';

/** What the yard takes on the disk, and how to make room. */
export function Room() {
    const queries = useQueryClient();
    const space = useQuery({ queryKey: ['space'], queryFn: api.space, staleTime: 0, refetchOnMount: 'always' }).data;
    if (!space) return null;
    const clear = async () => {
        try {
            const now = await api.clear();
            queries.setQueryData(['space'], now);
            toast.success(`${show(now.cleared, 'B')} were cleared.`);
        } catch (e) {
            said(e);
        }
    };
    return (
        <footer className="mt-8 flex items-center gap-3 border-t border-line pt-3 text-soft">
            <span>
                The yard takes <span className="figure">{show(space.bytes, 'B')}</span>, <span className="figure">{show(space.again, 'B')}</span> of it can be made again (beyond <span className="figure">{show(space.keep, 'B')}</span> what was used longest ago goes)
                {space.clearable > 0 ? <>; nothing refers to <span className="figure">{show(space.clearable, 'B')}</span> of it any more, which goes by itself after {Math.round(space.after / 3600)} hours.</> : '.'}
            </span>
            <span className="flex-1" />
            {space.clearable > 0 && <Button hint="Deleted shots and earlier bakes go for good" onClick={() => void clear()}>Clear now</Button>}
        </footer>
    );
}
