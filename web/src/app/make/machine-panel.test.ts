import { TestBed } from '@angular/core/testing';
import type { KeptPlan, MachineView } from '@plain-relief/api';
import { BehaviorSubject } from 'rxjs';
import { ApiError } from '../platform/api';
import { type Followed, MachinePanel } from './machine-panel';
import { MachineService } from './machine.service';

const REPORT: NonNullable<MachineView['report']> = {
  state: 'running',
  why: '',
  machine: 'Bench engraver',
  job: { id: 'r', name: '01-end-3.ngc', lines: 200, line: 50, isDone: false },
  place: { x: 10, y: 5, z: -1 },
  tool: 2,
  spindle: 'turning',
  pace: 1080,
  feed: 100,
  door: 'closed',
  faster: 1,
  seconds: 75,
};
const RUN: NonNullable<MachineView['run']> = { id: 'r', planId: 'p', signId: 's', title: 'Depth plate', file: 0, name: '01-end-3.ngc', sentBy: 'Piet', sentAt: '', line: 50, end: null }; // prettier-ignore
const PLAN = {
  id: 'p',
  released: { by: 'Runa', at: '', reason: null },
  outcome: {
    stock: { top: 0, bottom: -8, box: { minX: -30, minY: -20, maxX: 30, maxY: 20 } },
    safe: 2,
    zero: { x: -30, y: -20, z: 0 },
    files: [{ name: '01-end-3.ngc', toolName: '3 mm end mill', tool: { number: 2 } }],
    cuts: [
      { file: 0, firstLine: 9, lastLine: 100, purpose: 'clear', toolName: '3 mm end mill' },
      { file: 0, firstLine: 101, lastLine: 190, purpose: 'cut out', toolName: '3 mm end mill' },
    ],
  },
} as unknown as KeptPlan;

describe('MachinePanel', () => {
  async function show(view: MachineView, refuse?: ApiError) {
    const told: unknown[] = [];
    const view$ = new BehaviorSubject<MachineView | undefined>(view);
    const service = {
      view$,
      open: () => undefined,
      close: () => undefined,
      tell: async (...words: unknown[]) => void told.push(words.filter((word) => word !== undefined)),
      send: async (...words: unknown[]) => {
        told.push(['send', ...words]);
        if (refuse && words[2] !== true) throw refuse;
      },
    };
    TestBed.configureTestingModule({ providers: [{ provide: MachineService, useValue: service }] });
    const fixture = TestBed.createComponent(MachinePanel);
    const followed: (Followed | undefined)[] = [];
    fixture.componentInstance.followed.subscribe((at) => followed.push(at));
    fixture.componentRef.setInput('plan', PLAN);
    fixture.componentRef.setInput('secondsLeft', 125);
    await fixture.whenStable();
    // Asked again, now that the plan is there.
    view$.next({ ...view });
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const press = async (words: string) => {
      [...page.querySelectorAll('button')].find(({ textContent }) => textContent!.trim().startsWith(words))!.click();
      await fixture.whenStable();
    };
    return { page, press, told, followed };
  }
  const as = (report: Partial<typeof REPORT>, run: Partial<typeof RUN> = {}): MachineView => ({ report: { ...REPORT, ...report }, trouble: '', run: { ...RUN, ...run } }); // prettier-ignore

  it('says that it is a stand-in, what it does, and what comes next', async () => {
    const { page, followed } = await show(as({}));
    expect(page.textContent).toContain('stand-in');
    expect(page.querySelector('.state')?.textContent).toContain('Bench engraver: running');
    expect(page.querySelector('dl')?.textContent).toMatch(
      /50 of 200, 1:15 gone.*2:05.*clear with 3 mm end mill.*cut out with 3 mm end mill/su,
    );
    // In the places of the sign.
    expect(followed.at(-1)).toEqual({ program: 0, line: 50, place: { x: -20, y: -15, z: -1 } });
  });

  it.each<[Partial<typeof REPORT>, string, unknown[]]>([
    [{}, 'Hold', ['hold']],
    [{}, 'Stop', ['stop']],
    [{ state: 'held', why: 'held by hand' }, 'Go on', ['go']],
    [{ state: 'tool', why: 'waits for T7' }, 'T7 is in', ['tool', 7]],
    [{ state: 'alarm', why: 'home it' }, 'Home it', ['home']],
    [{ state: 'idle', job: { ...REPORT.job!, line: 0 } }, 'Run 01-end-3.ngc', ['run']],
    [{ state: 'idle', job: { ...REPORT.job!, line: 0 } }, 'Go on from line', ['run', 50]],
    [{}, 'Open the door', ['door', 1]],
    [{ state: 'off', job: undefined }, 'Give the power back', ['power', 1]],
  ])('of a machine %j “%s” tells it %j', async (report, words, asked) => {
    const { press, told } = await show(as(report));
    await press(words);
    expect(told).toEqual([asked]);
  });

  it('says what was lost, and at which line', async () => {
    const { page } = await show(as({ state: 'alarm', job: undefined }, { end: 'lost' }));
    expect(page.textContent).toMatch(/lost by the machine at line 50/u);
  });

  it('says when it does not answer, and where its program was', async () => {
    const away = await show({ trouble: 'The practice machine does not answer: it was silent.', run: RUN });
    expect(away.page.querySelector('[role=alert]')?.textContent).toMatch(/does not answer.*line 50/su);
  });

  it('asks before it takes out what somebody else sent', async () => {
    const refusal = new ApiError(409, 'Piet has sent 02-ball.ngc, which is not done yet.', { code: 'MACHINE_TAKEN' });
    const { page, press, told } = await show(as({ state: 'idle' }), refusal);
    page.querySelector<HTMLButtonElement>('.files button')!.click();
    await Promise.resolve();
    await press('Send');
    expect(page.textContent).toContain('Piet has sent 02-ball.ngc');
    await press('Take it out for mine');
    expect(told.at(-1)).toEqual(['send', 'p', 0, true]);
  });
});
