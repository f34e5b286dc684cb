import { expect, test } from 'vitest';
import type { ShotDocument } from './document';
import { newDust, readDust } from './dust';

test('grains are read with their box, and lie where it says', () => {
    const bytes = new ArrayBuffer(4 + 28 + 16);
    new Float32Array(bytes, 4, 7).set([1, 2, 3, 10, 20, 30, 0.5]);
    new Uint16Array(bytes, 32, 8).set([0, 65535, 32768, 255, 65535, 0, 0, (63 << 10) | (2 << 8)]);
    const dust = readDust(bytes, 4, 44);
    expect(dust.count).toBe(2);
    expect(dust.box).toEqual([1, 2, 3, 10, 20, 30]);
    expect(dust.largest).toBe(0.5);
    expect(Array.from(dust.grains.slice(0, 4))).toEqual([0, 65535, 32768, 255]);
    expect(readDust(new ArrayBuffer(28), 0, 28).count).toBe(0);
});

test('new dust has a name and an id of its own, and goes by a map there is', () => {
    const document = { props: [{ id: 'jar', weights: [{ id: 'w' }], dust: [{ id: 'map', name: 'Dust from cracks', from: 'map', values: {} }] }] } as unknown as ShotDocument;
    expect(newDust(document, 'jar', 'map', 'From cracks', { level: 0.5 })).toEqual({ id: 'map-2', name: 'Dust from cracks 2', from: 'map', values: { level: 0.5, map: 'w' } });
    expect(newDust(document, 'jar', 'cracks', 'From cracks', {}).values).toEqual({});
});
