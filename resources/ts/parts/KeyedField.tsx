import type { Option } from '../data/api';
import { keyFrame, momentsOn, setAt, unsetAt } from '../data/keys';
import { axesOf, neighbours } from '../data/lanes';
import { useMoments } from '../data/moments';
import { useDocument } from '../data/shot';
import { isKeyed, knotsOf, shownFrame, valueAt } from '../data/track';
import type { Value } from '../data/document';
import { useUi } from '../data/ui';
import { NumberField } from './NumberField';

interface Props {
    /** Which value it is, as `prop:place/size`. */
    lane: string;
    option: Option;
    label?: string;
    /** What is written beside it, where that is enough there. */
    words?: string;
    step?: number;
    slider?: boolean;
    /** Where the document says nothing. */
    fallback?: number;
}

/** A number that can be another at every frame: shown and set at the playhead, with a mark to key it. */
export function KeyedNumber({ lane, option, label = option.label, words, step, slider, fallback }: Props) {
    const document = useDocument();
    const usual = fallback ?? Number(option.default ?? 0);
    const value = (document === null ? undefined : axesOf(document, { id: lane })?.[0]) ?? usual;
    return (
        <>
            <div className="flex items-center gap-1">
                <div className="min-w-0 flex-1"><Field lane={lane} axis={0} option={option} label={label} words={words} step={step} slider={slider} value={value} usual={[usual]} /></div>
                <KeyMark lane={lane} axis={0} label={label} value={value} usual={[usual]} />
            </div>
            <Neighbours lane={lane} values={[value]} />
        </>
    );
}

/** Three of them: x, y and z. */
export function KeyedTriple({ lane, option, label = option.label, step }: Props) {
    const document = useDocument();
    const usual = option.default as number[];
    const axes = (document && axesOf(document, { id: lane })) ?? usual;
    return (
        <div className="py-[3px]">
            <div className="mb-0.5 flex justify-between" title={option.meaning}>
                <span>{label}</span>
                <span className="figure text-[11px] text-soft">{option.unit}</span>
            </div>
            <div className="grid grid-cols-3 gap-1.5">
                {(['x', 'y', 'z'] as const).map((axis, i) => (
                    <span key={axis} className="flex min-w-0 items-center gap-0.5">
                        <Field lane={lane} axis={i} option={option} label={`${label} ${axis}`} lead={axis} step={step} value={axes[i] ?? 0} usual={usual} />
                        <KeyMark lane={lane} axis={i} label={`${label} ${axis}`} value={axes[i] ?? 0} usual={usual} />
                    </span>
                ))}
            </div>
            <Neighbours lane={lane} values={axes} />
        </div>
    );
}

function Field({ lane, axis, option, label, words, lead, step, slider = false, value, usual }: { lane: string; axis: number; option: Option; label: string; words?: string; lead?: string; step?: number; slider?: boolean; value: Value; usual: readonly number[] }) {
    const { frame, moments } = useKeyFrame(lane);
    const share = option.least === 0 && option.most <= 1 && option.unit === '';
    return (
        <NumberField
            label={label}
            words={words}
            hint={option.meaning}
            hideLabel={lead !== undefined}
            lane={lane}
            axis={lead === undefined ? undefined : axis}
            lead={lead}
            step={step}
            slider={slider}
            unit={lead === undefined ? (share ? '%' : option.unit) : ''}
            least={option.least}
            most={option.most}
            value={Number(valueAt(value, frame, moments).toPrecision(9))}
            usual={isKeyed(value) || option.default === null ? undefined : usual[axis]}
            onChange={(v) => setAt(lane, axis, frame, v, false, isKeyed(value) ? `${label} at frame ${frame}` : label, usual)}
        />
    );
}

/** A small diamond beside a number: empty, keyed elsewhere, keyed here. A click keys here, or takes that key away. */
function KeyMark({ lane, axis, label, value, usual }: { lane: string; axis: number; label: string; value: Value; usual: readonly number[] }) {
    const { frame, moments } = useKeyFrame(lane);
    const keyed = isKeyed(value);
    const { here } = keyed ? neighbours(knotsOf(value, moments), frame) : { here: false };
    const now = valueAt(value, frame, moments);
    return (
        <button
            type="button"
            aria-pressed={here}
            aria-label={here ? `Remove the key of ${label} at frame ${frame}` : `Key ${label} at frame ${frame}`}
            title={here ? 'Keyed here; click to remove' : keyed ? 'Keyed elsewhere; click to key here' : 'Click to key it here'}
            className="grid size-[15px] shrink-0 place-items-center"
            onClick={() => (here ? unsetAt(lane, axis, frame) : setAt(lane, axis, frame, now, true, `Key ${label} at frame ${frame}`, usual))}
        >
            <svg width={11} height={11} viewBox="0 0 11 11" aria-hidden>
                <path d="M5.5 1l4.500 4.500-4.500 4.500L1 5.500z" fill={here ? 'var(--ink)' : keyed ? 'var(--line)' : 'none'} stroke={keyed ? 'var(--ink)' : 'var(--soft)'} strokeWidth={1.2} />
            </svg>
        </button>
    );
}

/** Where the keys next to the playhead are. */
function Neighbours({ lane, values }: { lane: string; values: readonly Value[] }) {
    const set = useUi((s) => s.set);
    const { frame, moments } = useKeyFrame(lane);
    const knots = values.flatMap((v) => (isKeyed(v) ? knotsOf(v, moments) : [])).sort((a, b) => a.frame - b.frame);
    if (knots.length === 0) return null;
    const { before, after } = neighbours(knots, frame);
    const jump = (to: number | null, words: string) => to !== null && <button type="button" className="hover:text-ink" onClick={() => set({ frame: Math.round(shownFrame(momentsOn(lane, moments), to)), playing: false })}>{words}</button>;
    return (
        <div className="figure flex justify-end gap-3 pr-[18px] text-[11px] text-soft">
            {jump(before, `◂ key at ${before}`)}
            {jump(after, `key at ${after} ▸`)}
            <button type="button" className="hover:text-ink" title="Its curve, in the cue sheet" onClick={() => set({ lane, drawer: true })}>curve</button>
        </div>
    );
}

/** Where on its lane the playhead is. */
function useKeyFrame(lane: string) {
    const shown = useUi((s) => s.frame);
    const moments = useMoments();
    return { frame: keyFrame(lane, shown, moments), moments };
}
