import { TestBed } from '@angular/core/testing';
import type { Clearance, KeptPlan } from '@plain-relief/api';
import { PlanFacts } from './plan-facts';

const RUN = {
  gougeMm: 0,
  gougeAreaMm2: 0,
  leftAreaMm2: 40,
  leftVolumeMm3: 28,
  deepestLeftMm: 0.7,
  rapidsInMaterial: 0,
  holderTouches: 0,
  belowBed: 0,
  inClamps: 0,
  spindleStill: 0,
  isOutside: false,
};
const FEEDS = {
  speed: 18_000,
  feed: 1080,
  plunge: 360,
  speedBy: 'fastest spindle',
  feedBy: 'chip load',
  plungeBy: 'most plunge',
};
const CUT = { purpose: 'clear', file: 0, firstLine: 9, lastLine: 40, tool: 2, toolName: '3 mm end mill', from: 0, to: -2, depthPerPass: 1.5, feeds: FEEDS, minutes: 4.2, lengthMm: 4000 }; // prettier-ignore

function planOf(more: object = {}, run: object = {}): KeptPlan {
  const outcome = {
    run: { ...RUN, ...run },
    cell: 0.1,
    minutes: 65.3,
    airMinutes: 6.5,
    lengthMm: 12_400,
    leftAreaMm2: 40,
    leftVolumeMm3: 28,
    zero: { x: 0, y: 0, z: 0 },
    cost: { currency: 'EUR', total: 92.4, lines: [{ what: 'machine', amount: 72, from: '90.0 min at 48 an hour' }] },
    cuts: [CUT, { ...CUT, purpose: 'cut out', to: -8, minutes: 2 }],
    files: [{ name: '01-end-3.ngc', tool: { number: 2 }, minutes: 6.2, lines: 60, sha256: 'abcdef0123456789' }],
    left: [
      { region: [], areaMm2: 40, volumeMm3: 28, deepestMm: 0.7, reason: 'It does not fit.', needs: 0.9 },
      { region: [], areaMm2: 2, volumeMm3: 1, deepestMm: 0.2, reason: 'It does not fit.' },
    ],
  };
  return { id: 'p', order: { tools: ['end-3'] }, outcome, released: null, ...more } as unknown as KeptPlan;
}
const tool = (id: string, kind: string, diameter: number, more: object = {}) => ({ id, name: `${diameter} ${kind}`, left: 2, form: { kind, diameter, ...more } }); // prettier-ignore
const CLEARED: Clearance = { isCleared: true, reason: '', letter: 'B', changes: [] };
const LOCKED: Clearance = { isCleared: false, reason: 'No proof of this sign has been approved.', changes: [] };

describe('PlanFacts', () => {
  async function show(plan: KeptPlan, clearance: Clearance, more: object = {}) {
    const fixture = TestBed.createComponent(PlanFacts);
    for (const [name, value] of Object.entries({ plan, clearance, mayOverride: true, ...more })) fixture.componentRef.setInput(name, value); // prettier-ignore
    const let_: (string | undefined)[] = [];
    const remedied: string[] = [];
    fixture.componentInstance.released.subscribe((reason) => let_.push(reason));
    fixture.componentInstance.remedied.subscribe((id) => remedied.push(id));
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const button = (words: string) =>
      [...page.querySelectorAll('button')].find(({ textContent }) => textContent!.includes(words));
    return { page, button, let_, remedied, fixture };
  }

  it('says that it is proven, and lets out what is approved without a reason', async () => {
    const { page, button, let_ } = await show(planOf(), CLEARED);
    expect(page.querySelector('.verdict.good')?.textContent).toContain('Proven');
    expect(page.textContent).toContain('1 h 05 min');
    expect(page.textContent).toContain('EUR 92.40');
    expect(page.querySelector('pr-line-field')).toBeNull();
    button('Let the programs out')!.click();
    expect(let_).toEqual([undefined]);
  });

  it('wants a reason for what is not approved, or not proven', async () => {
    for (const [plan, clearance] of [
      [planOf(), LOCKED],
      [planOf({}, { gougeMm: 0.31, gougeAreaMm2: 4 }), CLEARED],
    ] as const) {
      const { page, button, let_, fixture } = await show(plan, clearance);
      expect(button('Let the programs out')!.disabled).toBe(true);
      const field = page.querySelector<HTMLInputElement>('pr-line-field input')!;
      field.value = ' A trial piece ';
      field.dispatchEvent(new Event('input'));
      await fixture.whenStable();
      button('Let the programs out')!.click();
      expect(let_).toEqual(['A trial piece']);
    }
  });

  it('tells what a dry run found, and gives makers no way around it', async () => {
    const { page, button } = await show(planOf({}, { gougeMm: 0.31, gougeAreaMm2: 4, rapidsInMaterial: 2 }), CLEARED, { mayOverride: false }); // prettier-ignore
    expect(page.querySelector('.verdict.bad')?.textContent).toMatch(/cuts 0\.31 mm into the sign.*2 rapid moves in material/u);
    expect(button('Let the programs out')).toBeUndefined();
    expect(page.textContent).toContain('Ask a designer');
  });

  it('has files only once they were let out, and by whom', async () => {
    expect((await show(planOf(), CLEARED)).page.querySelector('.files a[download="01-end-3.ngc"]')).toBeNull();
    const out = planOf({ released: { by: 'Runa Aldous', at: '2026-11-28T10:00:00Z', reason: 'scrap' } });
    const { page } = await show(out, CLEARED);
    expect(page.querySelector('.files a')?.getAttribute('href')).toBe('/api/plans/p/files/01-end-3.ngc');
    expect(page.textContent).toContain('Let out by Runa Aldous: scrap');
  });

  it('sums up what is left by its reason, and offers the largest tool that fits there', async () => {
    const tools = [tool('end-3', 'end', 3), tool('end-1', 'end', 1), tool('end-0-8', 'end', 0.8), tool('end-0-5', 'end', 0.5), tool('point', 'point', 3, { tip: 0.9 })]; // prettier-ignore
    const { page, button, remedied } = await show(planOf(), CLEARED, { tools });
    expect(page.querySelectorAll('.left li')).toHaveLength(1);
    expect(page.querySelector('.left')?.textContent).toContain('42.0 mm²');
    button('Take the 0.8 end as well')!.click();
    expect(remedied).toEqual(['end-0-8']);
    // Where no end mill does, a cone whose tip does.
    const cones = await show(planOf(), CLEARED, { tools: [tool('end-1', 'end', 1), tool('point', 'point', 3, { tip: 0.2 })] });
    cones.button('Take the')!.click();
    expect(cones.remedied).toEqual(['point']);
    const none = await show(planOf(), CLEARED, { tools: [{ ...tool('end-0-8', 'end', 0.8), left: 0 }] });
    expect(none.button('Take the')).toBeUndefined();
  });

  it('offers a ball for slopes and a longer mill for depths, of those that are not taken yet', async () => {
    const left = [
      { region: [], areaMm2: 9, volumeMm3: 2, deepestMm: 0.4, reason: 'Slopes want a ball nose.', cause: 'slope' },
      { region: [], areaMm2: 8, volumeMm3: 99, deepestMm: 14, reason: 'None is as long.', cause: 'length', needsLength: 14 },
    ];
    const outcome = { ...planOf().outcome!, left };
    const long = (id: string, diameter: number, cuttingLength: number) => ({ ...tool(id, 'end', diameter), cuttingLength });
    const tools = [tool('ball-3', 'ball', 3), long('end-6', 6, 12), long('end-8', 8, 30), long('end-20', 20, 60)];
    const { button, remedied } = await show(planOf({ outcome }), CLEARED, { tools });
    button('Take the 3 ball as well')!.click();
    button('Take the 8 end as well')!.click();
    expect(remedied).toEqual(['ball-3', 'end-8']);
  });

  it('offers what could be changed of the sign, in words', async () => {
    const mendings = [
      { kind: 'open up', part: 'a', name: 'Pier', diameter: 3, tracking: 4, grownBy: 12.345 },
      {
        kind: 'edge',
        part: 'b',
        tier: 't',
        name: 'Line',
        edge: { kind: 'ridged', angle: 90, capped: true },
        tool: '90° vee bit',
      },
      {
        kind: 'edge',
        part: 'c',
        tier: 't',
        name: 'Panel',
        edge: { kind: 'sloped', angle: 30, sized: 'top' },
        tool: '60° vee bit',
      },
      { kind: 'edge', part: 'c', tier: 't', name: 'Panel', edge: undefined },
    ];
    const { page, button, fixture } = await show(planOf(), CLEARED, { mendings });
    const words = [...page.querySelectorAll('.mendings li')].map(({ textContent }) => textContent!.trim());
    expect(words).toEqual([
      'Open “Pier” up for a tool of ⌀ 3 mm: 12.35 mm longer',
      'Carve “Line” as the 90° vee bit does: a groove of 90°',
      'Slope the sides of “Panel” by 30°, as the 60° vee bit cuts them',
      'Make the sides of “Panel” upright',
    ]);
    const mended: unknown[] = [];
    fixture.componentInstance.mended.subscribe((remedy) => mended.push(remedy));
    button('upright')!.click();
    expect(mended).toEqual([mendings[3]]);
  });

  it('shows the ways of one cut at a time, with what its feeds are limited by', async () => {
    const { page, fixture } = await show(planOf(), CLEARED);
    const cuts = [...page.querySelectorAll<HTMLButtonElement>('.cuts button')];
    expect(cuts.map(({ textContent }) => textContent!.trim().split(' with')[0])).toEqual(['Clear', 'Cut out']);
    cuts[1].click();
    await fixture.whenStable();
    expect(fixture.componentInstance.chosen()).toBe(1);
    expect(page.querySelector('.feeds')?.textContent).toContain('18000/min (fastest spindle), 1080 mm/min (chip load)');
    cuts[1].click();
    expect(fixture.componentInstance.chosen()).toBeUndefined();
  });
});
