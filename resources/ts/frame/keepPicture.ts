import { api } from '../data/api';

/** Keeps a small picture of the stage for the yard's list. */
export function keepPicture(shot: string): void {
    const canvas = document.querySelector<HTMLCanvasElement>('#picture canvas');
    if (canvas === null || canvas.width === 0) return;
    const small = document.createElement('canvas');
    small.width = 480;
    small.height = 300;
    const k = Math.max(small.width / canvas.width, small.height / canvas.height);
    small.getContext('2d')!.drawImage(canvas, (small.width - canvas.width * k) / 2, (small.height - canvas.height * k) / 2, canvas.width * k, canvas.height * k);
    small.toBlob((png) => png && void api.keepPicture(shot, png).catch(() => undefined));
}
