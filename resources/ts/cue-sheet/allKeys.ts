import { queryClient } from '../data/queries';
import type { Catalogue } from '../data/api';
import { keyName } from '../data/keys';
import { axesOf, framesOf, lanesOf } from '../data/lanes';
import { currentMoments } from '../data/moments';
import { useShot } from '../data/shot';

/** All keys of the shot from a frame on. */
export function allKeys(from = -Infinity): { name: string; frame: number }[] {
    const document = useShot.getState().shot?.document;
    const catalogue = queryClient.getQueryData<Catalogue>(['catalogue']);
    if (!document || !catalogue) return [];
    const moments = currentMoments();
    return lanesOf(document, catalogue).flatMap((lane) => framesOf(axesOf(document, lane) ?? [], moments).filter((k) => k.frame >= from).map((k) => ({ name: keyName(lane.id, k.frame), frame: k.frame })));
}
