// @vitest-environment jsdom
import { cleanup, render } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { RangeTrough } from './RangeTrough';

afterEach(cleanup);
const grain = (value: number) => {
  const { container, unmount } = render(
    <RangeTrough value={value} low={10} high={20} label="P" word="medium" />,
  );
  const c = container.querySelector('circle') as SVGCircleElement;
  const at = {
    x: Number(c.getAttribute('cx')),
    y: Number(c.getAttribute('cy')),
    name: container.querySelector('svg')?.getAttribute('aria-label'),
  };
  unmount();
  return at;
};

describe('range trough', () => {
  it('the grain lies in the dip when sufficient, both ends included', () => {
    for (const v of [10, 15, 20]) {
      expect(grain(v).y, String(v)).toBe(17);
      expect(grain(v).x).toBeGreaterThan(60);
      expect(grain(v).x).toBeLessThan(110);
    }
  });
  it('on the left bank when low and on the right bank when high, never off the picture', () => {
    expect(grain(9.9)).toMatchObject({ y: 7 });
    expect(grain(9.9).x).toBeLessThan(60);
    expect(grain(0).x).toBeGreaterThan(4);
    expect(grain(1e6).x).toBeLessThan(146);
    expect(grain(21).x).toBeGreaterThan(110);
  });
  it('says its class in words', () => expect(grain(15).name).toBe('P: medium'));
});
