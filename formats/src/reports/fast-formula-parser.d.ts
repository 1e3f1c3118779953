declare module 'fast-formula-parser' {
  export default class FormulaParser {
    constructor(config: object);
    parse(formula: string, at: object): unknown;
  }
}
