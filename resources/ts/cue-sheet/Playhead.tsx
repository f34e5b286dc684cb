export function Playhead({ at, height, head }: { at: number; height: number; head?: boolean }) {
    return (
        <g pointerEvents="none">
            <line x1={at} x2={at} y1={head ? 16 : 0} y2={height} stroke="var(--ink)" strokeWidth={1.5} />
            {head && <path d={`M${at - 6.500} 2h13v9l-6.500 7-6.500-7z`} fill="#c8f031" stroke="#1d2327" />}
        </g>
    );
}
