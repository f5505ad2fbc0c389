import { TestBed } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { RunProof } from '@plain-relief/api';
import { RunProofPanel } from './run-proof';

const approved: RunProof = {
  proofId: 'p',
  letter: 'B',
  state: 'approved',
  createdAt: '2026-11-20T09:00:00.000Z',
  endedAt: '2026-11-24T09:00:00.000Z',
  answeredBy: 'Marit Solheim',
  changes: { isSignChanged: false, changed: [], added: [], removed: 0 },
  option: { id: 'brass', name: 'Brass', isMade: false },
  corrections: [],
  remarks: [],
};

async function shown(proof: RunProof, isLooking = false) {
  TestBed.configureTestingModule({ providers: [provideRouter([])] });
  const fixture = TestBed.createComponent(RunProofPanel);
  for (const [name, value] of Object.entries({ proof, jobId: 'j', isLooking })) fixture.componentRef.setInput(name, value);
  const chosen: string[] = [];
  fixture.componentInstance.chosen.subscribe((id) => chosen.push(id));
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  return { page, chosen, button: page.querySelector('button') };
}

describe('the standing of a run whose customer chose an option', () => {
  it('says that plates are made otherwise, and has them made as it', async () => {
    const { page, chosen, button } = await shown(approved);
    expect(page.textContent).toMatch(/as Brass\.\s+The plates are made otherwise\./u);
    expect(button?.textContent.trim()).toBe('Make them as Brass');
    button?.click();
    expect(chosen).toEqual(['brass']);
    expect(page.querySelector('.good')).toBeNull();
  });

  it('says that they are as approved where they are made as it, and offers nothing to who only looks', async () => {
    const { page, button } = await shown({ ...approved, option: { ...approved.option!, isMade: true } });
    expect([page.textContent.includes('The plates are as approved.'), button, page.querySelector('.good') !== null]).toEqual([true, null, true]); // prettier-ignore
    TestBed.resetTestingModule();
    expect((await shown(approved, true)).button).toBeNull();
  });
});
