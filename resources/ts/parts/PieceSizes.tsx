import { scaleLinear, scaleLog } from 'd3-scale';
import { useMemo, useState } from 'react';
import type { PropPieces } from '../data/pieces';
import { useUi } from '../data/ui';
import { multipleOf, showNumber } from '../data/quantity';
import { sizeColour, sizeShares } from './sizes';

const WIDTH = 308;
const HEIGHT = 62;
const BARS = 22;

/** How many pieces there are of each size; hover lights them up in the picture, a click picks them. */
export function PieceSizes({ pieces }: { pieces: PropPieces }) {
    const [log, setLog] = useState(false);
    const { lit, picked, set } = useUi();
    const volumes = useMemo(() => pieces.pieces.map((p) => p.volume), [pieces]);
    const [litre, unit] = multipleOf(pieces.figures.largest, 'm³');
    const chart = useMemo(() => {
        const least = Math.max(pieces.figures.smallest, pieces.figures.largest * 1e-6);
        const scale = log ? scaleLog().domain([least, pieces.figures.largest * 1.0001]) : scaleLinear().domain([0, pieces.figures.largest * 1.0001]);
        scale.range([0, BARS]);
        const bins: number[][] = Array.from({ length: BARS }, () => []);
        volumes.forEach((v, i) => bins[Math.min(BARS - 1, Math.max(0, Math.floor(scale(Math.max(v, least)))))]!.push(i));
        const highest = Math.max(...bins.map((b) => b.length));
        const ticks = log ? [scale.invert(0), scale.invert(BARS / 2), scale.invert(BARS)] : scaleLinear().domain([0, pieces.figures.largest]).ticks(4);
        return { bins, highest, scale, ticks };
    }, [pieces, volumes, log]);
    const w = WIDTH / BARS;
    return (
        <div>
            <div className="mb-1 flex items-baseline justify-between">
                <h3 className="font-semibold">Piece sizes</h3>
                <button type="button" className="figure text-[11px] text-soft underline-offset-2 hover:underline" onClick={() => setLog(!log)}>
                    volume, {unit} · {log ? 'log' : 'linear'}
                </button>
            </div>
            <svg viewBox={`0 0 ${WIDTH} ${HEIGHT + 16}`} className="block w-full" role="group" aria-label={`Piece sizes: ${volumes.length} pieces`}>
                {chart.bins.map((bin, k) => {
                    const h = bin.length === 0 ? 0 : Math.max(2, (bin.length / chart.highest) * HEIGHT);
                    const [r, g, b] = sizeColour(sizeShares([pieces.figures.smallest, chart.scale.invert(k + 0.5), pieces.figures.largest])[1]!);
                    const on = bin.some((i) => lit.includes(i) || picked.includes(i));
                    return (
                        <g
                            key={k}
                            role="button"
                            tabIndex={bin.length > 0 ? 0 : -1}
                            aria-label={`${bin.length} pieces`}
                            onPointerEnter={() => set({ lit: bin })}
                            onPointerLeave={() => set({ lit: [] })}
                            onFocus={() => set({ lit: bin })}
                            onBlur={() => set({ lit: [] })}
                            onClick={() => set({ picked: bin.length > 0 && bin.every((i) => picked.includes(i)) ? [] : bin })}
                            onKeyDown={(e) => e.key === 'Enter' && set({ picked: bin })}
                        >
                            <rect x={k * w} y={0} width={w} height={HEIGHT} fill="transparent" />
                            <rect x={k * w + 0.75} y={HEIGHT - h} width={w - 1.5} height={h} fill={`rgb(${r},${g},${b})`} stroke={on ? 'var(--ink)' : 'none'} strokeWidth={1.5} />
                        </g>
                    );
                })}
                <line x1={0} x2={WIDTH} y1={HEIGHT + 0.5} y2={HEIGHT + 0.5} stroke="var(--ink)" />
                {chart.ticks.map((t, i) => (
                    <text key={i} x={Math.min(WIDTH - 2, chart.scale(t) * w)} y={HEIGHT + 13} className="figure" fontSize={10} fill="var(--soft)" textAnchor={i === 0 ? 'start' : chart.scale(t) > BARS - 2 ? 'end' : 'middle'}>
                        {showNumber(t / litre, 3)}
                    </text>
                ))}
            </svg>
        </div>
    );
}
