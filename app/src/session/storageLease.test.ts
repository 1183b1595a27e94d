import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { isFreeInStorage, LEASE, storageLease } from './storageLease';

interface Tab {
  heard(): void;
  left(): void;
  dead: boolean;
}

/** One browser: a storage, a clock, and tabs that hear when another one writes. */
function browser() {
  const notes = new Map<string, string>();
  const tabs: Tab[] = [];
  const open = () => {
    const tab: Tab = { heard() {}, left() {}, dead: false };
    tabs.push(tab);
    const name = `tab${tabs.length}`;
    const others = () => {
      for (const other of tabs) if (other !== tab) other.heard();
    };
    return {
      tab,
      lease: storageLease({
        storage: {
          getItem: (key) => notes.get(key) ?? null,
          setItem(key, value) {
            if (!tab.dead) notes.set(key, value);
            others();
          },
          removeItem: (key) => (notes.delete(key), others()),
        },
        onOtherTab(told) {
          tab.heard = told;
          return () => {};
        },
        onLeaving(told) {
          tab.left = told;
          return () => {};
        },
        now: Date.now,
        newName: () => name,
      }),
    };
  };
  const storage = { getItem: (key: string) => notes.get(key) ?? null, setItem() {}, removeItem() {} };
  return { open, isFree: () => isFreeInStorage('job', { storage, now: Date.now }) };
}

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('lets one tab write, and the next one take over', () => {
  const { open, isFree } = browser();
  const [first, second] = [vi.fn(), vi.fn()];
  open().lease('job', false, first);
  vi.advanceTimersByTime(LEASE.settleMs);
  const other = open();
  other.lease('job', false, second);
  vi.advanceTimersByTime(LEASE.settleMs);
  expect([first.mock.calls, second.mock.calls]).toEqual([[[true]], [[false]]]);
  expect(isFree()).toBe(false);
  // Renewed as long as the tab lives.
  vi.advanceTimersByTime(3 * LEASE.holdsMs);
  expect(isFree()).toBe(false);
  const taken = vi.fn();
  open().lease('job', true, taken);
  expect(first.mock.calls.at(-1)).toEqual([false]);
  vi.advanceTimersByTime(LEASE.settleMs);
  expect(taken.mock.calls).toEqual([[true]]);
});

it('is free again when it is given back, when the page is left, and some time after the tab died', () => {
  const { open, isFree } = browser();
  const giveBack = open().lease('job', false, () => {});
  vi.advanceTimersByTime(LEASE.settleMs);
  giveBack();
  expect(isFree()).toBe(true);
  const { tab, lease } = open();
  lease('job', false, () => {});
  vi.advanceTimersByTime(LEASE.settleMs);
  tab.left();
  expect(isFree()).toBe(true);
  const dying = open();
  dying.lease('job', false, () => {});
  vi.advanceTimersByTime(LEASE.settleMs);
  dying.tab.dead = true;
  vi.advanceTimersByTime(LEASE.holdsMs / 2);
  expect(isFree()).toBe(false);
  vi.advanceTimersByTime(LEASE.holdsMs);
  expect(isFree()).toBe(true);
});

it('goes to one of two tabs that take it in one moment', () => {
  const { open } = browser();
  const [first, second] = [vi.fn(), vi.fn()];
  const [a, b] = [open(), open()];
  // The second has looked before it hears of the first: as two tabs that are opened together do.
  a.lease('job', false, first);
  b.lease('job', true, second);
  vi.advanceTimersByTime(LEASE.settleMs);
  expect([...first.mock.calls, ...second.mock.calls].filter(([may]) => may)).toHaveLength(1);
});
