import { api, ProblemError } from '../data/api';
import { useShot } from '../data/shot';
import { useUi } from '../data/ui';
import { waitingFor } from '../data/waiting';

/** Pixels of a picture in the list of what was done. */
const SIZE = { width: 128, height: 80 } as const;

/** The middle of the picture is taken, its rim left out: what is worked on stands there. */
const CLOSER = 1.35;

const JPEG_QUALITY = 0.8;

/** Keeps how a shot looked after each change, once the picture has come to rest. */
export class StatePictures {
    private taken: string | null = null;

    /** Whether the shot has changed since the last one. */
    get wanted(): boolean {
        const state = stateOf();
        return state !== null && state !== this.taken && useShot.getState().saving === 0 && !useUi.getState().playing && waitingFor().length === 0;
    }

    /** @param canvas with the picture just drawn */
    take(canvas: HTMLCanvasElement): void {
        if (!this.wanted) return;
        this.taken = stateOf();
        const { id, revision } = useShot.getState().shot!;
        const small = document.createElement('canvas');
        small.width = SIZE.width;
        small.height = SIZE.height;
        const scale = CLOSER * Math.max(SIZE.width / canvas.width, SIZE.height / canvas.height);
        small.getContext('2d')!.drawImage(canvas, (SIZE.width - scale * canvas.width) / 2, (SIZE.height - scale * canvas.height) / 2, scale * canvas.width, scale * canvas.height);
        small.toBlob((jpeg) => void (jpeg !== null && keep(id, revision, jpeg)), 'image/jpeg', JPEG_QUALITY);
    }
}

function stateOf(): string | null {
    const { shot } = useShot.getState();
    return shot === null ? null : `${shot.id} ${shot.revision}`;
}

async function keep(id: string, revision: number, jpeg: Blob): Promise<void> {
    try {
        await api.keepStatePicture(id, revision, jpeg);
    } catch (e) {
        // The list has no picture of that state then, and says all the rest.
        if (!(e instanceof ProblemError)) throw e;
    }
}
