import { usePieces, type Triple } from '../data/pieces';
import { useDocument } from '../data/shot';
import { useUi } from '../data/ui';
import { useCatalogue } from '../data/useCatalogue';
import { useLens } from './lens';
import { currentMoments } from '../data/moments';
import { inScene, poseAt } from '../data/pose';

/** Marks in the picture where the chosen prop has something wrong. */
export default function FaultMark() {
    useLens((s) => s.seen);
    const { chosen, frame } = useUi();
    const prop = useDocument()?.props.find((p) => p.id === chosen);
    const problem = usePieces((s) => (prop ? s.problems[prop.id] : undefined));
    const all = usePieces((s) => (prop ? s.byProp[prop.id]?.fitness?.faults : undefined)) ?? [];
    // What moves as a surface is fine without an inside.
    const open = useCatalogue()?.movers[prop?.motion.kind ?? '']?.mass === false && !prop?.break;
    const faults = open ? [] : all;
    const place: Triple | null = problem?.place ?? faults.find((f) => f.place !== null)?.place ?? null;
    if (!prop || place === null || prop.hidden) return null;
    const [x, y] = useLens.getState().project(inScene(poseAt(prop, frame, currentMoments()), place));
    const words = problem?.place ? problem.message : faults.find((f) => f.place !== null)!.fault;
    return (
        <div role="img" aria-label={`Here: ${words}`} title={words} className="pointer-events-none absolute" style={{ left: x, top: y }}>
            <span className="absolute size-[22px] -translate-1/2 rounded-full border-2 border-wrong bg-paper/60" />
            <span className="absolute -translate-1/2 text-[13px] leading-none font-bold text-wrong">✕</span>
        </div>
    );
}
