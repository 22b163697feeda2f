// The texts of the program that a person may read, found through the TypeScript parser: literals, templates with their
// places as {…}, and the content of JSX elements joined as it is shown.
import { readFileSync } from 'node:fs';
import ts from 'typescript';

/** Attributes of JSX whose value is read by a person. */
const SPOKEN =
  /^(aria-label|aria-description|aria-roledescription|title|label|placeholder|alt|hint|summary|what|name|heading|caption|text|children|unit|empty|action|word|words|message|legend|help|note|reason)$/i;
/** Calls whose arguments are names, queries or formats. */
const SILENT_CALL =
  /^(raw|whereRaw|orderByRaw|selectRaw|from|where|orderBy|table|pragma|exec|prepare|querySelector|querySelectorAll|getElementById|closest|matches|format|setAttribute|getItem|setItem|addEventListener|removeEventListener|on|once|off|emit|header|setHeader|set|get|startsWith|endsWith|split|join|replaceAll|replace|test|lazy|import|createSlice|Symbol|use)$/;
const INLINE =
  /^(b|strong|em|i|code|kbd|span|a|small|sub|sup|abbr|br|wbr|q|Link|NavLink|time|output|Term|Trans)$/;

/**
 * The texts of one source file.
 * @param {string} file its path, ending in .ts or .tsx
 * @param {string} [source] its content; read from the disk when not given
 * @returns {{ line: number, text: string }[]} in the order of the file
 */
export function textsOf(file, source = readFileSync(file, 'utf8')) {
  const kind = file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS;
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true, kind);
  const found = [];
  const add = (node, text) => {
    const flat = text.replace(/\s+/g, ' ').trim();
    if (isSpoken(flat))
      found.push({ line: tree.getLineAndCharacterOfPosition(node.getStart()).line + 1, text: flat });
  };

  /** What a child of an element shows, with {…} for what only the program knows. */
  function shown(node) {
    if (ts.isJsxText(node)) return asShown(node.text);
    if (ts.isJsxExpression(node)) return node.expression ? literal(node.expression) : '';
    if (ts.isJsxElement(node)) {
      const inner = node.children.map(shown).join('');
      return INLINE.test(node.openingElement.tagName.getText()) ? inner : ` ¶ `;
    }
    if (ts.isJsxFragment(node)) return node.children.map(shown).join('');
    return INLINE.test(node.tagName?.getText() ?? '') ? '' : '{…}';
  }

  function literal(node) {
    if (ts.isStringLiteralLike(node)) return node.text;
    if (ts.isTemplateExpression(node))
      return node.head.text + node.templateSpans.map((s) => literal(s.expression) + s.literal.text).join('');
    if (ts.isParenthesizedExpression(node)) return literal(node.expression);
    if (ts.isConditionalExpression(node)) {
      const [a, b] = [literal(node.whenTrue), literal(node.whenFalse)];
      return /[a-z]/i.test(a + b) ? `{${a}|${b}}` : '{…}';
    }
    if (ts.isBinaryExpression(node) && node.operatorToken.kind === ts.SyntaxKind.AmpersandAmpersandToken) {
      const a = literal(node.right);
      return /[a-z]/i.test(a) ? `{${a}|}` : '{…}';
    }
    if (ts.isJsxElement(node) || ts.isJsxFragment(node)) return shown(node);
    return '{…}';
  }

  function visit(node) {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isTypeNode(node)) return;
    if (ts.isJsxAttribute(node)) {
      const { initializer } = node;
      if (!initializer) return;
      if (ts.isStringLiteral(initializer)) {
        if (SPOKEN.test(node.name.getText())) add(node, initializer.text);
        return;
      }
      if (/^(className|style|id|key|to|href|d|viewBox|transform)$/.test(node.name.getText())) return;
    }
    if (
      (ts.isJsxElement(node) || ts.isJsxFragment(node)) &&
      node.children.some((c) => ts.isJsxText(c) && c.text.trim())
    ) {
      const parent = node.parent;
      const isPart =
        ts.isJsxElement(node) &&
        INLINE.test(node.openingElement.tagName.getText()) &&
        (ts.isJsxElement(parent) || ts.isJsxFragment(parent)) &&
        parent.children.some((c) => ts.isJsxText(c) && c.text.trim());
      if (!isPart) add(node, node.children.map(shown).join(''));
      const attributes = ts.isJsxElement(node) ? node.openingElement.attributes : undefined;
      if (attributes) ts.forEachChild(attributes, visit);
      for (const child of node.children) if (!ts.isJsxText(child)) visit(child);
      return;
    }
    if (ts.isStringLiteralLike(node) || ts.isTemplateExpression(node)) {
      if (!isName(node)) add(node, literal(node));
      if (ts.isTemplateExpression(node)) for (const span of node.templateSpans) visit(span.expression);
      return;
    }
    ts.forEachChild(node, visit);
  }
  visit(tree);
  return found;
}

/** A literal that the program compares, looks up or passes on as a name, and nobody reads. */
function isName(node) {
  const { parent } = node;
  if (ts.isPropertyAssignment(parent) && parent.name === node) return true;
  if (ts.isElementAccessExpression(parent) || ts.isCaseClause(parent) || ts.isLiteralTypeNode(parent))
    return true;
  if (ts.isBinaryExpression(parent) && /^[!=]==?$/.test(parent.operatorToken.getText())) return true;
  if (ts.isCallExpression(parent)) {
    const callee = parent.expression;
    const name = ts.isPropertyAccessExpression(callee) ? callee.name.text : callee.getText();
    if (SILENT_CALL.test(name)) return true;
  }
  if (ts.isNewExpression(parent) && /^(RegExp|URL|Worker)$/.test(parent.expression.getText())) return true;
  if (ts.isTaggedTemplateExpression(parent)) return true;
  return false;
}

/** Text of JSX as React shows it: a break of the line and the blanks about it are nothing at the ends, else one blank. */
function asShown(text) {
  const lines = text.split('\n');
  return lines
    .map((line, k) => {
      const begun = k === 0 ? line : line.trimStart();
      return k === lines.length - 1 ? begun : begun.trimEnd();
    })
    .filter((line) => line !== '' || lines.length === 1)
    .join(' ');
}

const CLASSES = /^[a-z0-9:_./[\]()%#!*&>,=-]+(?: [a-z0-9:_./[\]()%#!*&>,=-]+)*$/;

/** Words of a sentence or a label; not class names, queries, code, addresses or keys. */
function isSpoken(text) {
  const words = text.replace(/\{…\}/g, ' ').trim();
  if (!/[A-Za-z]{2}/.test(words)) return false;
  if (
    /^(SELECT|INSERT|UPDATE|DELETE|CREATE|ALTER|DROP|PRAGMA|WITH|select|insert|update|delete|create|alter|pragma)\b/.test(
      words,
    ) &&
    /\b(from|into|table|set|index|where|_)\b/i.test(words)
  )
    return false;
  if (/^([a-z]+:)?\/\//.test(words) || /^[./@]/.test(words) || /^application\/|^text\/|^image\//.test(words))
    return false;
  if (/\b(flex|grid|text-(xs|sm|base)|input-sm|btn|select-sm|rounded|min-w-0|items-center)\b/.test(words))
    return false;
  if (!words.includes(' '))
    return /^[A-ZÅÄÖ±✓✕⚠?★+][^\s]*$/.test(words) && !/^[A-Z0-9_]+$/.test(words) && !/[()=/{}<>_]/.test(words);
  if (
    CLASSES.test(words) &&
    /[a-z]-[a-z0-9[]|:[a-z]/.test(words) &&
    !/[.,:;!?]( |$)/.test(words) &&
    words
      .split(' ')
      .every((w) =>
        /-|:|^(flex|grid|block|hidden|relative|absolute|sticky|fixed|border|num|muted|label|truncate|underline|italic|uppercase|shrink|grow|inline)$/.test(
          w,
        ),
      )
  )
    return false;
  return true;
}
