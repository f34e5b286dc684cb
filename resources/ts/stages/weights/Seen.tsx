import { staleFrom, useBake } from '../../data/bake';
import type { Prop, WeightMap } from '../../data/document';
import { useDocument } from '../../data/shot';
import { useUi } from '../../data/ui';
import { effectsOf } from '../../data/weights';
import { Choice } from '../../parts/controls';

type Seen = 'map' | 'effect' | 'both' | '';

const SEEN = [
    { value: 'map', label: 'Map', hint: 'The prop unbroken, in the colours of the map' },
    { value: 'effect', label: 'Effect', hint: 'What the map does, as the shot will have it' },
    { value: 'both', label: 'Both', hint: 'What the map does, in the colours of the map' },
] as const;

/** Whether the picture shows the map, what it does, or both; and what that is. */
export function Seen({ prop, map }: { prop: Prop; map: WeightMap }) {
    const document = useDocument()!;
    const { effect, show, set } = useUi();
    const baked = useBake((s) => s.bake?.state === 'done' && staleFrom(s.bake) === null);
    const { words, baked: bakes } = effectsOf(prop, map.id, document);
    const breaks = words.includes('says where it breaks');
    // Other ways of looking are chosen in the picture: then it is none of these.
    const seen: Seen = show === 'weight' ? (effect ? 'both' : 'map') : effect ? 'effect' : '';
    const turn = (to: Seen) => set({ effect: to !== 'map', show: to === 'effect' ? (breaks ? 'pieces' : 'surface') : 'weight' });
    return (
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line px-4 py-2.5">
            <span>In the picture</span>
            <Choice<Seen> label="In the picture" value={seen} options={SEEN} onChange={turn} />
            {effect && <p className={`w-full ${words.length > 0 && bakes && !baked ? 'text-doubt' : 'text-soft'}`}>{words.length === 0 ? '▲ It does nothing yet: say below what it does.' : bakes && !baked ? `▲ It ${words.join(', ')}; what falls or is pushed is seen once it is baked.` : `It ${words.join(', ')}.`}</p>}
        </div>
    );
}
