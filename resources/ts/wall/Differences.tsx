import { useQuery } from '@tanstack/react-query';
import { api } from '../data/api';
import { useWall, type WallPicture } from '../data/wall';
import { Section } from '../parts/controls';

/** What is different of the second picture from the first, in words. */
export function Differences({ pictures }: { pictures: readonly WallPicture[] }) {
    const shown = useWall((s) => s.shown);
    const [one, other] = shown.map((key) => pictures.find((p) => p.key === key)?.bake ?? null);
    const both = shown.length === 2 && one?.state === 'done' && other?.state === 'done';
    const { data } = useQuery({ queryKey: ['against', other?.id, one?.id], queryFn: () => api.against(other!.id, one!.id), enabled: both, staleTime: Infinity });
    if (!both || data === undefined) return null;
    return (
        <Section title="The second against the first">
            {data.words.length === 0 ? <p className="text-soft">No figure differs by more than a twentieth.</p> : (
                <ul aria-label="Differences" className="list-disc pl-4">
                    {data.words.map((w) => <li key={w}>{w}</li>)}
                </ul>
            )}
            {data.what !== null && <p className="mt-1 text-soft">Other from frame {data.from} on, by {data.what}.</p>}
        </Section>
    );
}
