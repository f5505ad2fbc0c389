import { TestBed } from '@angular/core/testing';
import { ReliefService } from '../../relief/relief.service';
import type { PictureView } from '../../relief/views';
import { PictureOfRelief } from './picture-of-relief';

const PICTURE: PictureView = { width: 2, height: 1, rgba: Uint8Array.of(1, 2, 3, 255, 4, 5, 6, 255) };

describe('PictureOfRelief', () => {
  let asked: number[];
  let latest: (view: unknown) => void;
  let answers: ((picture: PictureView | undefined) => void)[];
  let made: number;
  let revoked: string[];
  let picture: PictureOfRelief;

  beforeEach(() => {
    answers = [];
    revoked = [];
    made = 0;
    // What a browser has and the test page lacks.
    Object.assign(globalThis, { ImageData: class {} });
    HTMLCanvasElement.prototype.getContext = (() => ({ putImageData: () => {} })) as never;
    HTMLCanvasElement.prototype.toBlob = ((done: (blob: Blob) => void) => done(new Blob(['png']))) as never;
    URL.createObjectURL = () => `blob:${++made}`;
    URL.revokeObjectURL = (address) => void revoked.push(address);
    asked = [];
    const relief = {
      latest: undefined as unknown,
      picture: (longest: number) => {
        asked.push(longest);
        return new Promise((answer) => answers.push(answer));
      },
    };
    latest = (view) => (relief.latest = view);
    TestBed.configureTestingModule({ providers: [PictureOfRelief, { provide: ReliefService, useValue: relief }] });
    picture = TestBed.inject(PictureOfRelief);
  });

  /** Answers as often as it is asked, after all that waits has gone on. */
  const settle = async (from: number, answer: PictureView | undefined) => {
    for (let i = from; i < answers.length; i++) {
      answers[i](answer);
      await new Promise((done) => setTimeout(done));
    }
  };

  it('shows a rough picture first, then the fine one, and lets go of what was before', async () => {
    const first = picture.draw();
    answers[0](PICTURE);
    await new Promise((done) => setTimeout(done));
    expect([asked, picture.address()]).toEqual([[350, 1400], 'blob:1']);
    answers[1](PICTURE);
    await first;
    expect([picture.address(), revoked]).toEqual(['blob:2', ['blob:1']]);
    picture.ngOnDestroy();
    expect([picture.address(), revoked]).toEqual([undefined, ['blob:1', 'blob:2']]);
  });

  it('draws nothing anew of which nothing has changed', async () => {
    latest({});
    const first = picture.draw();
    await settle(0, PICTURE);
    await first;
    await picture.draw();
    expect(asked).toHaveLength(2);
    latest({});
    void picture.draw();
    expect(asked).toHaveLength(3);
  });

  it('drops an older picture that comes after a newer one, and none at all', async () => {
    const [older, newer] = [picture.draw(), picture.draw()];
    await settle(1, PICTURE);
    await newer;
    answers[0](PICTURE);
    await older;
    expect([picture.address(), made]).toEqual(['blob:2', 2]);
    const none = picture.draw();
    await settle(answers.length - 1, undefined);
    await none;
    expect(picture.address()).toBe('blob:2');
  });
});
