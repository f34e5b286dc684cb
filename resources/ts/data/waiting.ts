import { useContact } from './contact';
import { framesFit, useBake } from './bake';
import { isEvaluated, isWorkedOut, useEvaluated } from './evaluated';
import { isGroundComing } from './ground';
import { currentMap, frameShown, useMaps } from './maps';
import { usePieces } from './pieces';
import { useShot, visibleProps } from './shot';
import { isMaking, useUi } from './ui';
import { useWorn, wornAt } from './worn';

/**
 * What of the picture is still of another moment, or of the shot as it was before the last change, in words; nothing where
 * all of it is true. What is drawn is drawn as soon as it is there, so that a drag never waits: this says what to expect.
 */
export function waitingFor(): string[] {
    const { shot, saving } = useShot.getState();
    if (shot === null) return ['the shot'];
    const ui = useUi.getState();
    const { byProp, problems, working } = usePieces.getState();
    const { told, revision } = useEvaluated.getState();
    const making = isMaking(ui);
    const out: string[] = saving > 0 ? ['the change'] : [];
    if (isGroundComing()) out.push('the ground');
    const props = visibleProps(shot.document);
    for (const prop of props) {
        const pieces = byProp[prop.id];
        const tag = shot.tags[prop.id];
        if (problems[prop.id] === undefined && (pieces === undefined || working[prop.id] != null || (pieces.tag !== '' && tag !== undefined && pieces.tag !== tag))) out.push(`the pieces of ${prop.name}`);
        else if (isEvaluated(prop) && !(making && prop.id === ui.chosen) && told?.props[prop.id]?.problem == null && (revision !== shot.revision || !isWorkedOut(prop.id, ui.frame))) out.push(`${prop.name} at frame ${ui.frame}`);
    }
    if (ui.show === 'contact' && Object.values(useContact.getState().working).some((share) => share !== null)) out.push('what collides');
    const maps = useMaps.getState();
    if (ui.stage === 'weights' && maps.problem === null) {
        const shown = currentMap();
        if (shown !== null && !ui.effect && (maps.revision !== shot.revision || frameShown(ui.frame) === null)) out.push(`the map ${shown.map.name}`);
    }
    const worn = useWorn.getState();
    if (worn.of !== null && worn.problem === null && (worn.revision !== shot.revision || wornAt(ui.frame) === null)) out.push(`the weights of ${props.find((p) => p.id === ui.chosen)?.name ?? 'its pieces'}`);
    const { bake, store, loaded } = useBake.getState();
    if (!making && store !== null && loaded > 0 && bake !== null && framesFit(bake, props.map((p) => ({ id: p.id, pieces: byProp[p.id]?.pieces.length ?? 0 })))) {
        if (store.get(Math.min(loaded - 1, Math.max(0, ui.frame - bake.first))) === null) out.push(`frame ${ui.frame} of the bake`);
    }
    return out;
}
