import type { CompiledLine } from './compile.ts';
import { commentText, identifier } from './cParts.ts';
import type { HeaderOptions } from './emitC.ts';

/**
 * A small C program that shows the header at work: reads raw values from its input, a row a line, and prints readings.
 * Compiles with any C99 compiler, so that the conversion can be tried on a desk before it goes into a gadget.
 * @param headerFile name that the header is saved under
 */
export function emitLineExample(
  line: CompiledLine,
  { name, remarks }: HeaderOptions,
  headerFile: string,
): string {
  const lower = identifier(name);
  const [ins, outs] = [line.columns.length, line.outputs.length];
  const single = ins === 1 && outs === 1;
  const read = line.columns.map((_, i) => `scanf("%lf", &v[${i}]) == 1`).join(' && ');
  const call = single
    ? `shown[0] = ${lower}_convert(&line, (LN_REAL)v[0]);`
    : `{
      LN_REAL raw[${ins}];
      for (int i = 0; i < ${ins}; i++) raw[i] = (LN_REAL)v[i];
      ${lower}_convert(&line, raw, shown);
    }`;
  return `/*
${remarks.map((r) => ` * ${commentText(r)}`).join('\n')}
 *
 * Try it: cc -std=c99 example.c -o example -lm && echo "${Array(ins).fill(512).join(' ')}" | ./example
 * In a gadget: call ${lower}_start once, then ${lower}_convert for each reading, ${line.context.sampleRateHz} times per second.
 */
#include <stdio.h>
#include "${headerFile.replace(/[^A-Za-z0-9._-]/g, '_')}"

int main(void) {
  ${lower}_line line;
  double v[${ins}];
  LN_REAL shown[${outs}];
  ${lower}_start(&line);
  while (${read}) {
    ${call}
    for (int i = 0; i < ${outs}; i++) {
      if (isnan(shown[i])) printf("bad%s", i + 1 < ${outs} ? " " : "\\n");
      else printf("%.9g%s", (double)shown[i], i + 1 < ${outs} ? " " : "\\n");
    }
  }
  return 0;
}
`;
}
