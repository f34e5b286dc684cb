import { useMaps } from '../data/maps';
import { useUi } from '../data/ui';
import { allMaps } from '../data/weights';
import { useDocument } from '../data/shot';
import { NAMES, type Scale } from './scale';

const HIGH = 22;

/** Under the ruler: how much of the prop the map leaves untouched, has in between, and fills, over the frames. */
export function Coverage({ scale, width }: { scale: Scale; width: number }) {
    const document = useDocument()!;
    const { of, told } = useMaps();
    const frame = useUi((s) => s.frame);
    const map = allMaps(document).find(({ map: m }) => m.id === of)?.map;
    if (map === undefined || told === null) return <div className="h-[26px] border-b border-line" />;
    const { x } = scale;
    const half = (x(1) - x(0)) / 2;
    const here = told.coverage[frame - told.first] ?? null;
    const percent = (share: number) => `${Math.round(100 * share)} %`;
    const words = here === null ? 'working out' : `frame ${frame}: untouched ${percent(here[0])}, between ${percent(1 - here[0] - here[1])}, full ${percent(here[1])}`;
    return (
        <div className="grid border-b border-line" style={{ gridTemplateColumns: `${NAMES}px 1fr` }}>
            <div className="flex items-center gap-2 border-r border-line pr-3 pl-3">
                <span>Coverage</span>
                <span className="min-w-0 flex-1 truncate text-soft">{map.name}</span>
                <span className="figure text-[11px]">{here === null ? '…' : percent(here[1])}</span>
            </div>
            <svg width={width} height={HIGH + 4} className="block" role="img" aria-label={`Coverage of ${map.name}; ${words}`} data-coverage={here === null ? '' : here.map((v) => v.toFixed(3)).join(' ')}>
                <g shapeRendering="crispEdges">
                    {told.coverage.map((c, k) => {
                        if (c === null) return null;
                        const left = Math.round(x(told.first + k) - half);
                        const wide = Math.round(x(told.first + k) + half) - left;
                        const [none, full] = c;
                        return (
                            <g key={k}>
                                <rect x={left} y={2} width={wide} height={HIGH} fill="var(--cover-none)" />
                                <rect x={left} y={2 + HIGH * none} width={wide} height={HIGH * (1 - none)} fill="var(--cover-between)" />
                                <rect x={left} y={2 + HIGH * (1 - full)} width={wide} height={HIGH * full} fill="var(--cover-full)" />
                            </g>
                        );
                    })}
                </g>
                <line x1={x(frame)} x2={x(frame)} y1={0} y2={HIGH + 4} stroke="var(--ink)" strokeWidth={1.500} />
                <line x1={x(frame)} x2={x(frame)} y1={2} y2={2 + HIGH} stroke="#c8f031" strokeWidth={1.500} />
            </svg>
        </div>
    );
}
