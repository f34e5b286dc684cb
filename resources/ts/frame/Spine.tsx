import { staleFrom, useBake } from '../data/bake';
import { useMaps } from '../data/maps';
import { usePieces } from '../data/pieces';
import { useDocument, visibleProps } from '../data/shot';
import { useUi, type Stage } from '../data/ui';

export const STAGES: readonly { id: Exclude<Stage, 'shot'>; label: string }[] = [
    { id: 'props', label: 'Props' },
    { id: 'break', label: 'Break' },
    { id: 'weights', label: 'Weights' },
    { id: 'motion', label: 'Motion' },
    { id: 'bake', label: 'Bake' },
    { id: 'hand-off', label: 'Hand-off' },
];

type Mark = 'nothing' | 'fine' | 'look' | 'stale' | 'busy';

const MARKS: Record<Mark, { sign: string; colour: string; words: string }> = {
    nothing: { sign: '○', colour: 'text-soft', words: 'nothing yet' },
    fine: { sign: '●', colour: 'text-fine', words: 'fine' },
    look: { sign: '▲', colour: 'text-doubt', words: 'look here' },
    stale: { sign: '◐', colour: 'text-doubt', words: 'out of date' },
    busy: { sign: '◔', colour: 'text-fine', words: 'working' },
};

function useMarks(): Record<(typeof STAGES)[number]['id'], Mark> {
    const document = useDocument();
    const problems = usePieces((s) => s.problems);
    const bake = useBake((s) => s.bake);
    const props = document ? visibleProps(document) : [];
    const doubtful = useMaps((s) => s.problem !== null || (s.told?.findings.length ?? 0) > 0);
    const bad = props.some((p) => problems[p.id] !== undefined);
    const baked: Mark = bake === null ? 'nothing' : bake.state === 'failed' ? 'look' : bake.state === 'running' || bake.state === 'queued' ? 'busy' : staleFrom(bake) !== null || bake.state === 'cancelled' ? 'stale' : 'fine';
    return {
        props: props.length === 0 ? 'nothing' : bad ? 'look' : 'fine',
        break: props.some((p) => p.break) ? (bad ? 'look' : 'fine') : 'nothing',
        weights: props.some((p) => (p.weights ?? []).length > 0) ? (doubtful ? 'look' : 'fine') : 'nothing',
        motion: props.some((p) => p.motion.kind !== 'fixed') ? 'fine' : 'nothing',
        bake: baked,
        'hand-off': baked === 'fine' ? 'fine' : baked === 'stale' ? 'stale' : 'nothing',
    };
}

export function Spine() {
    const stage = useUi((s) => s.stage);
    const set = useUi((s) => s.set);
    const marks = useMarks();
    return (
        <nav aria-label="Stages" className="flex flex-col gap-1 border-r border-line bg-[var(--wash)] p-1.5">
            {STAGES.map((s, i) => {
                const mark = MARKS[marks[s.id]];
                const on = stage === s.id;
                return (
                    <button
                        key={s.id}
                        type="button"
                        aria-current={on ? 'step' : undefined}
                        title={`${s.label}: ${mark.words}`}
                        onClick={() => set({ stage: s.id })}
                        className={`corner quick flex h-[72px] flex-col items-start px-2 pt-1 pb-2 text-left ${on ? 'bg-chosen text-on-chosen' : 'bg-paper hover:bg-raised'}`}
                    >
                        <span className="flex w-full items-center justify-between">
                            <span className="text-[19px] font-extrabold">{i + 1}</span>
                            <span className={`mr-0.5 text-[11px] ${on ? 'text-chosen-mark' : mark.colour}`}><span aria-hidden>{mark.sign}</span><span className="sr-only">{mark.words}</span></span>
                        </span>
                        <span className="mt-auto font-narrow text-[13px] font-medium">{s.label}</span>
                    </button>
                );
            })}
        </nav>
    );
}
