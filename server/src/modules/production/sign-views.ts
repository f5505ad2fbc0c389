import { type Evaluation, type Evaluator } from '@plain-relief/core/relief';
import { coloured, type ColouredMesh, type Figures, figuresOf, signModel, solidOf } from '@plain-relief/core/solid';
import { hasBack, type Sign, type SignOption, withOption } from '@plain-relief/core/sign';

/** A sign as files and proofs see it. */
export interface SignViews {
  readonly front: Evaluation;
  /** Seen from behind, where anything is made there. */
  readonly back?: Evaluation;
  /** The options that a customer may choose from; none where one of them was asked for. */
  readonly options: readonly { readonly option: SignOption; readonly front: Evaluation }[];
}

const solids = new WeakMap<Evaluation, ColouredMesh>();

/** The flat solid of an evaluation with its finishes, worked out once however many pages show it. */
export function solidOfView(evaluation: Evaluation): ColouredMesh {
  let solid = solids.get(evaluation);
  if (!solid) solids.set(evaluation, (solid = coloured(evaluation, solidOf(evaluation))));
  return solid;
}

const models = new WeakMap<Evaluation, ColouredMesh>();

/** The sign as it is in space with its finishes, worked out once as well. */
export function modelOfView(evaluation: Evaluation): ColouredMesh {
  if (!evaluation.sign.support) return solidOfView(evaluation);
  let model = models.get(evaluation);
  if (!model) models.set(evaluation, (model = signModel(evaluation, solidOfView(evaluation).mesh)));
  return model;
}

const figures = new WeakMap<Evaluation, Figures>();

/** What the solid of an evaluation measures, worked out once as well. */
export function figuresOfView(evaluation: Evaluation): Figures {
  let known = figures.get(evaluation);
  if (!known) figures.set(evaluation, (known = figuresOf(evaluation, solidOfView(evaluation).mesh)));
  return known;
}

/** The views of a sign, or of one of its options. */
export async function viewsOf(evaluator: Evaluator, sign: Sign, option?: string): Promise<SignViews> {
  const shown = withOption(sign, option);
  const front = await evaluator.evaluate(shown);
  const back = hasBack(shown) ? await evaluator.evaluate(shown, 'back') : undefined;
  const options: { option: SignOption; front: Evaluation }[] = [];
  if (option === undefined)
    for (const each of sign.options ?? [])
      options.push({ option: each, front: await evaluator.evaluate(withOption(sign, each.id)) });
  return { front, ...(back && { back }), options };
}
