import type { ReactNode } from 'react';

const Drawing = ({ children }: { children: ReactNode }) => (
    <svg viewBox="0 0 36 28" className="h-[26px]" fill="none" stroke="currentColor" strokeWidth={1.4} strokeLinejoin="round" aria-hidden>
        {children}
    </svg>
);

/** Line drawings of the shapes, by name. */
export const SHAPE_DRAWINGS: Record<string, ReactNode> = {
    box: <Drawing><path d="M6 9l12-5 12 5v11l-12 5-12-5zM6 9l12 5 12-5M18 14v11" /></Drawing>,
    ball: <Drawing><circle cx={18} cy={14} r={10.5} /><path d="M7.7 12.5c6 4.5 14.500 4.500 20.600 0" /></Drawing>,
    cylinder: <Drawing><ellipse cx={18} cy={6} rx={9} ry={3} /><path d="M9 6v16c0 4 18 4 18 0V6" /></Drawing>,
    cone: <Drawing><path d="M18 3L8 22c0 4 20 4 20 0z" /></Drawing>,
    ring: <Drawing><ellipse cx={18} cy={14} rx={13} ry={8.500} /><ellipse cx={18} cy={13.500} rx={5.500} ry={2.800} /></Drawing>,
    lathe: <Drawing><path d="M13 3h10M14 3c0 5-6 7-6 13 0 5 4 9 10 9s10-4 10-9c0-6-6-8-6-13M18 1v26" strokeDasharray="none" /></Drawing>,
    beam: <Drawing><path d="M3 12l5-3h25l-5 3zM3 12v9h25v-9M28 21l5-3V9" /></Drawing>,
    sweep: <Drawing><path d="M5 24C8 6 16 6 18 14s10 8 13-9" strokeWidth={5} strokeLinecap="round" /><path d="M5 24C8 6 16 6 18 14s10 8 13-9" stroke="var(--raised)" strokeWidth={2.6} strokeLinecap="round" /></Drawing>,
    outline: <Drawing><path d="M8 4h14l7 7v13H8z" /><circle cx={17} cy={15} r={4} /></Drawing>,
    text: <Drawing><path d="M7 23L14 5h3l7 18M10 17h11M25 23h5" /></Drawing>,
    sheet: <Drawing><path d="M9 4l16 3v18L9 22zM25 7l2-1v18l-2 1M9 4l2-1 16 3" /></Drawing>,
};

/** Line drawings of the break patterns, by name. */
export const PATTERN_DRAWINGS: Record<string, ReactNode> = {
    none: <Drawing><path d="M5 4h26v20H5z" /></Drawing>,
    cells: <Drawing><path d="M5 4h26v20H5zM5 14l7-2 4-8M12 12l5 6-3 6M17 18l7-4-2-6 3-4M24 14l7 2M22 8l-6-4" /></Drawing>,
    halving: <Drawing><path d="M5 4h26v20H5zM17 4c3 5-2 9 2 13s-1 5 0 7M5 15c4 2 8-1 13 0M18 11c4-2 8 2 13 0" /></Drawing>,
    strike: <Drawing><path d="M5 4h26v20H5zM18 14L7 4M18 14l3-10M18 14l13-4M18 14l12 10M18 14l-2 10M18 14L5 18" /><path d="M14.500 10.500l5-1 3.500 3-.5 4-4.800 2.500-4-2z" /></Drawing>,
    courses: <Drawing><path d="M4 4h28v20H4zM4 10.600h28M4 17.300h28M13 4v6.600M23 4v6.600M8.500 10.600v6.700M18 10.600v6.700M27.500 10.600v6.700M13 17.300V24M23 17.300V24" /></Drawing>,
    tiles: <Drawing><path d="M5 4h26v20H5zM5 10.600h26M5 17.300h26M13.600 4v20M22.300 4v20" /></Drawing>,
    flakes: <Drawing><path d="M5 24V12l5-4 5 3 4-5 6 4 6-3v17zM13 3l5-1-2 4zM23 2l5 1-3 3zM6 5l3 0-1 3z" /></Drawing>,
    stencil: <Drawing><path d="M5 4h26v20H5z" /><path d="M18 22c-8-4-8-11 0-16 8 5 8 12 0 16zM18 22V9M18 17l-3.500-3M18 13l3.500-3" /></Drawing>,
    score: <Drawing><path d="M5 4h26v20H5z" /><path d="M3 18l8-6 6 5 8-9 8 3" strokeDasharray="3 2" /><circle cx={11} cy={12} r={1.600} fill="currentColor" /><circle cx={17} cy={17} r={1.600} fill="currentColor" /><circle cx={25} cy={8} r={1.600} fill="currentColor" /></Drawing>,
    punch: <Drawing><path d="M5 4h26v20H5z" /><path d="M14 9l3-1.500 3 1 3-.5 1 3.500 1.500 2-2 3 0 2.500-3.500.5-2.500 1.500-3-2-2.500-.5.500-3-1.500-2.500 2-1.500z" /></Drawing>,
    parts: <Drawing><path d="M4 8h8v13H4zM15 6h7v15h-7zM25 9h7v12h-7z" /></Drawing>,
};

const Falling = ({ children }: { children: ReactNode }) => (
    <svg viewBox="0 0 60 36" className="h-[36px]" fill="none" stroke="currentColor" strokeWidth={1.3} strokeLinejoin="round" aria-hidden>
        <path d="M3 34h54" strokeDasharray="2 2" />
        {children}
    </svg>
);

/** Line drawings of a vessel that has just landed, by the way it comes apart. */
export const FALL_DRAWINGS: Record<string, ReactNode> = {
    clumps: <Falling><path d="M20 5l8-1 1 8-5 3-8-3zM32 4l9 2 2 8-7 2-5-4zM14 16l9 2 1 8-8 3-5-6zM37 20l9-3 4 7-5 5-8-3zM26 20l8-1 1 6-7 2zM7 33l2-3 3 3zM27 33l3-3 2 3zM49 33l3-3 2 3zM19 33l2-2 2 2z" /></Falling>,
    near: <Falling><path d="M20 8l24-6 1 4-3 2c3 7 2 14-3 19l-5-1-3-5-5 2-4-4C20 16 21 12 22 11z" /><path d="M15 33l2-4 4 1 1 3zM24 30l3-3 3 3-2 3zM32 33l2-3 4 1 1 2zM8 33l2-2 2 2z" /></Falling>,
    all: <Falling><path d="M12 16l4-2 2 4-4 1zM21 8l4-2 1 4-4 1zM31 6l4 0 0 4-4-1zM40 11l4 1-1 4-4-1zM19 21l4-1 1 4-4 1zM28 15l4-1 1 4-5 0zM36 20l4-2 2 4-4 1zM46 20l4 1-1 4-4-1zM8 25l4-1 1 4-4 1zM27 24l4-1 1 4-4 1zM16 33l2-3 3 3zM36 30l4-1 1 4h-5zM24 33l2-2 3 2zM46 33l2-3 3 3zM7 33l1-2 2 2z" /></Falling>,
};
