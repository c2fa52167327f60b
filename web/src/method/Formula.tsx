import katex from 'katex';
import { say } from '../words/en/method.ftl';
import 'katex/dist/katex.min.css';
import classes from './Method.module.css';

/** A formula, typeset; readers without eyes hear it as MathML. */
export function FormulaText({ latex }: { latex: string }) {
  const html = katex.renderToString(latex, {
    displayMode: true,
    throwOnError: false,
    strict: false,
  });
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset it is not
    <div
      role="group"
      className={classes.formula}
      aria-label={say('formula')}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a long one scrolls, by keyboard too
      tabIndex={0}
      // biome-ignore lint/security/noDangerouslySetInnerHtml: made by the typesetter from the core's own table
      dangerouslySetInnerHTML={{ __html: html }}
    />
  );
}
