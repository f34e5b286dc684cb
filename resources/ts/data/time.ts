import type { Frames } from './document';

/** How time is written beside frames. */
export type Clock = 'frames' | 'seconds' | 'timecode';

export function perSecond({ rate }: Pick<Frames, 'rate'>): number {
    return rate[0] / rate[1];
}

/** A rate as it is said: 24, 23.976. */
export function rateInWords(rate: readonly [number, number]): string {
    return `${Number((rate[0] / rate[1]).toFixed(3))} fps`;
}

/**
 * Hours, minutes, seconds and frames (SMPTE ST 12-1). At 29.97 and 59.94 the first numbers of most minutes are left out, so
 * that the count keeps up with the clock; `;` says so.
 */
export function timecode(frame: number, rate: readonly [number, number]): string {
    const fps = Math.round(rate[0] / rate[1]);
    const drops = rate[1] === 1001 && fps % 30 === 0;
    let n = Math.abs(frame);
    if (drops) {
        const drop = fps / 15;
        const minute = 60 * fps - drop;
        const ten = 10 * minute + drop;
        const rest = n % ten;
        n += 9 * drop * Math.floor(n / ten) + (rest > drop ? drop * Math.floor((rest - drop) / minute) : 0);
    }
    const two = (v: number) => String(v).padStart(2, '0');
    return `${frame < 0 ? '-' : ''}${two(Math.floor(n / (3600 * fps)))}:${two(Math.floor(n / (60 * fps)) % 60)}:${two(Math.floor(n / fps) % 60)}${drops ? ';' : ':'}${two(n % fps)}`;
}

/**
 * The frame that was typed: a frame by its number, seconds with an `s`, or a timecode of two to four parts.
 *
 * @returns null where it is none of these
 */
export function readTime(text: string, rate: readonly [number, number]): number | null {
    const t = text.trim();
    if (/^[+-]?\d+$/.test(t)) return Number(t);
    const seconds = /^([+-]?\d*\.?\d+)\s*s$/.exec(t);
    if (seconds) return Math.round((Number(seconds[1]) * rate[0]) / rate[1]);
    const parts = /^(-?)(?:(?:(\d+):)?(\d+):)?(\d+)[:;](\d+)$/.exec(t);
    if (!parts) return null;
    const [hours, minutes, secs, frames] = [parts[2], parts[3], parts[4], parts[5]].map((v) => Number(v ?? 0)) as [number, number, number, number];
    const fps = Math.round(rate[0] / rate[1]);
    if (frames >= fps || secs >= 60 || minutes >= 60) return null;
    const all = 60 * hours + minutes;
    // Numbers that are left out of the count (SMPTE ST 12-1).
    const drops = rate[1] === 1001 && fps % 30 === 0 ? (fps / 15) * (all - Math.floor(all / 10)) : 0;
    return (parts[1] === '-' ? -1 : 1) * ((60 * all + secs) * fps + frames - drops);
}

/** A frame as time is shown. */
export function timeShown(frame: number, clock: Clock, rate: readonly [number, number]): string {
    return clock === 'timecode' ? timecode(Math.round(frame), rate) : clock === 'seconds' ? `${((frame * rate[1]) / rate[0]).toFixed(2)} s` : String(frame);
}

/** How long ago something was, in short words; further back than a week, the day. */
export function ago(at: string, now = Date.now()): string {
    const minutes = Math.max(0, Math.floor((now - Date.parse(at)) / 60000));
    if (minutes < 1) return 'just now';
    if (minutes < 60) return `${minutes} min`;
    if (minutes < 24 * 60) return `${Math.floor(minutes / 60)} h`;
    if (minutes < 7 * 24 * 60) return `${Math.floor(minutes / 1440)} d`;
    return at.slice(0, 10);
}
