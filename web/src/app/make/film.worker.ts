/// <reference lib="webworker" />
import { expose, transfer } from 'comlink';
import { FilmDesk, type FilmOrder } from './film-desk';

const desk = new FilmDesk();

/** Programs are read back and cut here; the page only shows. */
const counter = {
  open: (order: FilmOrder) => desk.open(order),
  frame: (seconds: number, y?: number) => {
    const frame = desk.frame(seconds, y);
    return frame && transfer(frame, [frame.rgba.buffer, frame.face.heights.buffer]);
  },
  secondsAt: (program: number, line: number) => desk.secondsAt(program, line),
  ways: (program: number, firstLine: number, lastLine: number) => {
    const ways = desk.ways(program, firstLine, lastLine);
    return transfer(
      ways,
      ways.map(({ points }) => points.buffer),
    );
  },
};
export type FilmCounter = typeof counter;

expose(counter);
