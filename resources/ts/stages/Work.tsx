import type { FrameFigures } from '../data/api';
import { show } from '../data/quantity';
import { useUi } from '../data/ui';

const REST = 'all else';

const TONES = [0.85, 0.55, 0.3, 0.14];

/** What the time of each frame was spent on. */
export function Work({ figures }: { figures: FrameFigures[] }) {
    const frame = useUi((s) => s.frame);
    const at = figures.find((f) => f.frame === frame) ?? figures[figures.length - 1]!;
    const names = [...new Set(figures.flatMap((f) => Object.keys(f.work ?? {})))];
    if (names.length === 0) return null;
    const told = (f: FrameFigures) => names.map((n) => f.work?.[n] ?? 0);
    const parts = (f: FrameFigures) => [...told(f), Math.max(0, f.seconds - told(f).reduce((a, b) => a + b, 0))];
    const top = Math.max(1e-9, ...figures.map((f) => parts(f).reduce((a, b) => a + b, 0)));
    const first = figures[0]!.frame;
    const span = Math.max(1, figures[figures.length - 1]!.frame - first);
    const x = (f: FrameFigures) => (300 * (f.frame - first)) / span;
    const below = (f: FrameFigures, k: number) => 40 - (38 * parts(f).slice(0, k).reduce((a, b) => a + b, 0)) / top;
    return (
        <div className="mb-2">
            <div className="figure flex justify-between text-[11px]"><span className="text-soft">computing, a frame</span><span>{show(at.seconds, 's', 2)}</span></div>
            <svg viewBox="0 0 300 41" preserveAspectRatio="none" className="block h-[41px] w-full border-b border-line" role="img" aria-label="What the time of each frame was spent on">
                {[...names, REST].map((name, k) => (
                    <polygon key={name} fill="var(--fine)" opacity={TONES[k] ?? 0.1} points={[...figures.map((f) => `${x(f)},${below(f, k)}`), ...[...figures].reverse().map((f) => `${x(f)},${below(f, k + 1)}`)].join(' ')} />
                ))}
                <line x1={x(at)} x2={x(at)} y1={0} y2={41} stroke="var(--ink)" vectorEffect="non-scaling-stroke" />
            </svg>
            <div className="mt-1 flex flex-wrap gap-x-3 text-[12px]">
                {[...names, REST].map((name, k) => (
                    <span key={name} className="flex items-center gap-1"><span aria-hidden className="inline-block size-[9px]" style={{ background: 'var(--fine)', opacity: TONES[k] ?? 0.1 }} />{name} <span className="figure text-[11px] text-soft">{show(parts(at)[k] ?? 0, 's', 2)}</span></span>
                ))}
            </div>
        </div>
    );
}
