import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

/** Functions whose arguments people read where something did not work, with the places of those that are words. */
const SAYING = new Map<string, readonly number[]>(
  Object.entries({
    Refusal: [1],
    RangeError: [0],
    fieldRefusal: [1],
    notFound: [0],
    sendProblem: [2],
    renderMessage: [1, 2],
    refuse: [1],
    wrong: [1],
    setProblem: [0],
    setFailure: [0],
  }),
);
/** Properties whose value people read, where something did not work. */
const SAID = new Set(['message', 'problem', 'error', 'warning', 'title', 'detail']);
/** Properties of which only those within the areas of what is said of problems count: elsewhere a title is a headline. */
const HEADLINES = new Set(['title', 'detail']);

export interface Message {
  words: string;
  /** Whether it stands for itself, as a sentence; a headline, or a name that is put into a sentence, does not. */
  isSentence: boolean;
  place: string;
}

function* filesIn(folder: string): Generator<string> {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const full = path.join(folder, entry.name);
    if (entry.isDirectory() && !['node_modules', 'dist', 'test'].includes(entry.name)) yield* filesIn(full);
    else if (/\.tsx?$/.test(entry.name)) yield full;
  }
}

/** The words of an expression, with … for what is put in; each branch of a choice by itself. */
function wordsOf(node: ts.Expression): string[] {
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return [node.text];
  if (ts.isTemplateExpression(node)) return [node.head.text + node.templateSpans.map((span) => `…${span.literal.text}`).join('')];
  if (ts.isConditionalExpression(node)) return [...wordsOf(node.whenTrue), ...wordsOf(node.whenFalse)];
  if (ts.isParenthesizedExpression(node) || ts.isAsExpression(node)) return wordsOf(node.expression);
  if (ts.isBinaryExpression(node) && [ts.SyntaxKind.QuestionQuestionToken, ts.SyntaxKind.BarBarToken].includes(node.operatorToken.kind))
    return [...wordsOf(node.left), ...wordsOf(node.right)];
  return [];
}

/** Words, not one of the keys that programs tell each other by. */
const isForPeople = (words: string) => /\s/.test(words) || /^[A-Z]/.test(words);

const isAlert = ({ tagName, attributes }: ts.JsxOpeningElement) =>
  tagName.getText() === 'FormProblem' || attributes.properties.some((each) => /^role="(alert|status)"$/.test(each.getText()));

const nameOf = (node: ts.Expression): string => (ts.isIdentifier(node) ? node.text : ts.isPropertyAccessExpression(node) ? node.name.text : '');

/** Every message of the files in a folder that people get when something does not work. */
export function messagesIn(root: string, folder: string, tellsProblems: (file: string) => boolean): Message[] {
  const found: Message[] = [];
  for (const file of filesIn(path.join(root, folder))) {
    const source = ts.createSourceFile(
      file,
      readFileSync(file, 'utf8'),
      ts.ScriptTarget.Latest,
      true,
      file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
    );
    const place = path.relative(root, file);
    const add = (node: ts.Expression, isSentence = true) => {
      for (const words of wordsOf(node)) if (isForPeople(words)) found.push({ words, isSentence, place });
    };
    const visit = (node: ts.Node): void => {
      if (ts.isCallExpression(node) || ts.isNewExpression(node)) {
        const name = nameOf(node.expression);
        for (const at of SAYING.get(name) ?? []) {
          const argument = node.arguments?.[at];
          if (argument) add(argument, name !== 'notFound' && !(name === 'renderMessage' && at === 1));
        }
        // refuse(row)(column, words)
        if (ts.isCallExpression(node.expression) && nameOf(node.expression.expression) === 'refuse' && node.arguments?.[1]) add(node.arguments[1]);
      }
      if (ts.isPropertyAssignment(node) && ts.isIdentifier(node.name) && SAID.has(node.name.text)) {
        if (!HEADLINES.has(node.name.text) || tellsProblems(place)) add(node.initializer);
      }
      if (ts.isJsxAttribute(node) && node.name.getText() === 'error' && node.initializer && ts.isJsxExpression(node.initializer) && node.initializer.expression)
        add(node.initializer.expression);
      // What a public page's script says is nothing else but what is under way, or did not work.
      if (place.includes('/runtime/') && ts.isExpression(node) && wordsOf(node).some((words) => /^[A-Z].* .*[.?!]$/.test(words))) add(node);
      if (ts.isJsxElement(node) && isAlert(node.openingElement)) {
        const words = node.children.filter(ts.isJsxText).map((text) => text.text.trim().replace(/\s+/g, ' '));
        const said = words.filter((each) => each !== '').join(' … ');
        if (isForPeople(said)) found.push({ words: said, isSentence: false, place });
      }
      ts.forEachChild(node, visit);
    };
    visit(source);
  }
  return found;
}
