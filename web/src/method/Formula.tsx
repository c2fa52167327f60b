import katex from 'katex';
import 'katex/dist/katex.min.css';
import classes from './Method.module.css';

/** A formula, typeset; readers without eyes hear it as MathML. */
export function FormulaText({ latex }: { latex: string }) {
  const html = katex.renderToString(latex, {
    displayMode: true,
    throwOnError: false,
    strict: false,
  });
  // biome-ignore lint/security/noDangerouslySetInnerHtml: made by the typesetter from the core's own table
  return <div className={classes.formula} dangerouslySetInnerHTML={{ __html: html }} />;
}
