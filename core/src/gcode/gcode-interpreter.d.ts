declare module 'gcode-interpreter' {
  export default class Interpreter {
    constructor(options: { handlers: Record<string, (words: Record<string, number>) => void> });
    loadFromStringSync(text: string): void;
  }
}
