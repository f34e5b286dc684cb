/** Pixels the flag of the playhead takes for a number. */
export function flagWidth(frame: number): number {
    return 12 + 6.7 * String(frame).length;
}

/** A line through ruler and lanes; on the ruler it carries the frame. */
export function Playhead({ at, height, frame }: { at: number; height: number; frame?: number }) {
    const half = frame === undefined ? 0 : flagWidth(frame) / 2;
    return (
        <g pointerEvents="none">
            <line x1={at} x2={at} y1={frame === undefined ? 0 : 16} y2={height} stroke="var(--ink)" strokeWidth={1.5} />
            {frame !== undefined && (
                <>
                    <path d={`M${at - half} 1.5h${2 * half}v14h${-(half - 4)}l-4 5-4-5h${-(half - 4)}z`} fill="#c8f031" stroke="#1d2327" />
                    <text x={at} y={12.500} fontSize={11} textAnchor="middle" fill="#1d2327" className="figure font-semibold">{frame}</text>
                </>
            )}
        </g>
    );
}
