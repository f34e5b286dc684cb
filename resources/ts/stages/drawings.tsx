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
    sheet: <Drawing><path d="M9 4l16 3v18L9 22zM25 7l2-1v18l-2 1M9 4l2-1 16 3" /></Drawing>,
};

/** Line drawings of the break patterns, by name. */
export const PATTERN_DRAWINGS: Record<string, ReactNode> = {
    none: <Drawing><path d="M5 4h26v20H5z" /></Drawing>,
    cells: <Drawing><path d="M5 4h26v20H5zM5 14l7-2 4-8M12 12l5 6-3 6M17 18l7-4-2-6 3-4M24 14l7 2M22 8l-6-4" /></Drawing>,
};
