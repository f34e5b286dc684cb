import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { followPointer } from './drag';
import { TieMark } from './TieMark';
import { readNumber, showNumber } from '../data/quantity';

interface Props {
    label: string;
    /** What is written beside the box; the label if not said. */
    words?: string;
    value: number;
    onChange: (value: number) => void;
    unit?: string;
    least?: number;
    most?: number;
    step?: number;
    whole?: boolean;
    hint?: string;
    slider?: boolean;
    hideLabel?: boolean;
    /** A letter before the box where the label is not shown. */
    lead?: string;
    disabled?: boolean;
    /** Where there is little room. */
    tight?: boolean;
    /** Which value of the shot it is, as `prop:place/size`, where it can be the same as another; its axis where it has three. */
    lane?: string;
    axis?: number;
    /** What it is where nobody has set it: a double click on its name, or an empty box, goes back there. */
    usual?: number;
}

/** Pixels the pointer is dragged for one step. */
const SCRUB = 4;

/** A number that can be typed (units and sums too), dragged on its name or slider, or stepped with the arrow keys. */
export function NumberField(props: Props) {
    const { label, value, onChange, unit = '', least = -Infinity, most = Infinity, whole = false, hint, slider = false, hideLabel = false, disabled = false } = props;
    const percent = unit === '%';
    const shown = percent ? value * 100 : value;
    const [text, setText] = useState<string | null>(null);
    const [dragged, setDragged] = useState<number | null>(null);
    const input = useRef<HTMLInputElement>(null);
    const putBack = useRef(false);
    const [tying, setTying] = useState(false);
    const step = props.step ?? (whole ? 1 : Math.pow(10, Math.floor(Math.log10(Math.max(Math.abs(shown), percent ? 10 : 0.1))) - 1));
    useEffect(() => setText(null), [value]);

    function take(next: number, loud = true): void {
        const rounded = whole ? Math.round(next) : Number(next.toPrecision(12));
        if (rounded < least || rounded > most) {
            const k = percent ? 100 : 1;
            if (loud) toast.error(`${label} must be between ${showNumber(least * k)} and ${showNumber(most * k)}${unit ? ` ${unit}` : ''}.`);
            setText(null);
            return;
        }
        if (rounded !== value) onChange(rounded);
        setText(null);
    }

    function commit(): void {
        if (putBack.current || text === null) {
            putBack.current = false;
            return;
        }
        if (text.trim() === '' && props.usual !== undefined) return take(props.usual);
        const read = readNumber(text, unit);
        if (read === null) {
            toast.error(`"${text}" is no number.`, { description: `${label} stays at ${showNumber(shown)}${unit ? ` ${unit}` : ''}.` });
            setText(null);
            return;
        }
        take(percent ? read / 100 : read);
    }

    function key(e: React.KeyboardEvent<HTMLInputElement>): void {
        if (e.key === 'Enter') {
            // What is taken is taken as the field is left; the keys are the stage's again.
            e.currentTarget.blur();
        } else if (e.key === 'Escape') {
            putBack.current = true;
            setText(null);
            e.currentTarget.blur();
        } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
            e.preventDefault();
            const by = (e.key === 'ArrowUp' ? 1 : -1) * step * (e.shiftKey ? 10 : e.altKey && !whole ? 0.1 : 1);
            take(Math.min(most, Math.max(least, value + (percent ? by / 100 : by))), false);
        }
        e.stopPropagation();
    }

    const scrub = {
        className: 'cursor-ew-resize touch-none select-none',
        title: props.usual === undefined ? hint : `${hint === undefined ? '' : `${hint} `}Double click: back to ${showNumber(props.usual * (percent ? 100 : 1))}${unit === '' ? '' : ` ${unit}`}.`,
        onDoubleClick: () => !disabled && props.usual !== undefined && take(props.usual),
        onPointerDown: (e: React.PointerEvent) => {
            if (disabled) return;
            e.preventDefault();
            const k = percent ? 100 : 1;
            let next = shown;
            followPointer(
                (m) => {
                    const steps = Math.round((m.clientX - e.clientX) / SCRUB) * (m.shiftKey ? 10 : m.altKey && !whole ? 0.1 : 1);
                    next = Number(Math.min(most * k, Math.max(least * k, shown + steps * step)).toPrecision(10));
                    setDragged(next);
                },
                () => {
                    if (next !== shown) take(next / k);
                    setDragged(null);
                },
            );
        },
    };
    const box = (
        <div className={`quick group flex h-[25px] items-center justify-end gap-1 border border-line bg-raised px-1.5 focus-within:border-ink ${props.lead !== undefined ? 'min-w-0 flex-1' : hideLabel || slider || props.tight ? 'w-[84px] shrink-0' : 'w-[116px] shrink-0'}`}>
            {props.lane !== undefined && !disabled && <TieMark lane={props.lane} axis={props.axis} label={label} open={tying} onOpen={setTying} />}
            <input
                ref={input}
                aria-label={label}
                title={hint}
                disabled={disabled}
                className="figure w-full min-w-0 bg-transparent text-right text-[12px] outline-none"
                value={text ?? showNumber(dragged ?? shown)}
                onFocus={(e) => e.currentTarget.select()}
                onChange={(e) => {
                    const asked = props.lane !== undefined && e.target.value === '=';
                    setText(asked ? null : e.target.value);
                    if (asked) setTying(true);
                }}
                onBlur={commit}
                onKeyDown={key}
            />
            {unit && <span className="figure shrink-0 text-[11px] text-soft">{unit}</span>}
        </div>
    );
    if (hideLabel && props.lead === undefined) return box;
    if (hideLabel) {
        return (
            <span className="flex min-w-0 flex-1 items-center gap-1">
                <span {...scrub} className={`figure text-[11px] text-soft ${scrub.className}`}>{props.lead}</span>
                {box}
            </span>
        );
    }
    const reach = Number.isFinite(least) && Number.isFinite(most);
    // Wide ranges feel even on a logarithmic slider.
    const log = reach && least > 0 && most / least > 500;
    const forth = (v: number) => (log ? Math.log(v / least) / Math.log(most / least) : (v - least) / (most - least));
    const back = (s: number) => (log ? least * Math.pow(most / least, s) : least + s * (most - least));
    const now = dragged === null ? value : dragged / (percent ? 100 : 1);
    return (
        <div className="flex h-[31px] items-center gap-2">
            <span {...scrub} className={`w-[108px] shrink-0 truncate ${scrub.className}`}>{props.words ?? label}</span>
            {slider && reach ? (
                <input
                    type="range"
                    aria-label={`${label} slider`}
                    disabled={disabled}
                    min={0}
                    max={1}
                    step={0.001}
                    value={forth(Math.min(most, Math.max(least, now)))}
                    className="slide min-w-0 flex-1"
                    style={{ '--at': `${100 * forth(Math.min(most, Math.max(least, now)))}%` } as React.CSSProperties}
                    onChange={(e) => {
                        const v = back(Number(e.target.value));
                        const neat = whole ? Math.round(v) : Number(v.toPrecision(3));
                        setDragged(neat * (percent ? 100 : 1));
                    }}
                    onPointerUp={() => {
                        if (dragged !== null) take(dragged / (percent ? 100 : 1));
                        setDragged(null);
                    }}
                    onKeyUp={() => {
                        if (dragged !== null) take(dragged / (percent ? 100 : 1));
                        setDragged(null);
                    }}
                />
            ) : (
                <span className="flex-1" />
            )}
            {box}
        </div>
    );
}

/** Three numbers in a row: x, y and z. */
export function TripleField(props: { label: string; lane?: string; value: readonly number[]; onChange: (v: [number, number, number]) => void; unit: string; hint?: string; step?: number }) {
    return (
        <div className="py-[3px]">
            <div className="mb-0.5 flex justify-between" title={props.hint}>
                <span>{props.label}</span>
                <span className="figure text-[11px] text-soft">{props.unit}</span>
            </div>
            <div className="grid grid-cols-3 gap-1.5">
                {(['x', 'y', 'z'] as const).map((axis, i) => (
                    <NumberField
                        key={axis}
                        hideLabel
                        lead={axis}
                        lane={props.lane}
                        axis={i}
                        label={`${props.label} ${axis}`}
                        value={props.value[i] ?? 0}
                        step={props.step}
                        least={-100000}
                        most={100000}
                        onChange={(v) => {
                            const next: [number, number, number] = [props.value[0] ?? 0, props.value[1] ?? 0, props.value[2] ?? 0];
                            next[i] = v;
                            props.onChange(next);
                        }}
                    />
                ))}
            </div>
        </div>
    );
}
