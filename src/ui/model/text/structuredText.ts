import type { StreamParser } from '@codemirror/language';

const keywords = new Set(
  'and or xor not mod if then elsif else end_if case of end_case for to by do end_for while end_while repeat until end_repeat exit continue return var var_input var_output constant end_var array struct end_struct type end_type function_block end_function_block function end_function true false'.split(
    ' ',
  ),
);
const types = new Set('bool sint usint int uint dint udint real lreal time ton tof tp r_trig f_trig sr rs ctu ctd ctud'.split(' '));

/** Colours for Structured Text: words, numbers, comments and pragmas. */
export const structuredText: StreamParser<{ comment: boolean }> = {
  startState: () => ({ comment: false }),
  token(stream, state) {
    if (state.comment) {
      state.comment = !stream.match(/.*?\*\)/);
      if (state.comment) stream.skipToEnd();
      return 'comment';
    }
    if (stream.match('(*')) {
      state.comment = true;
      return 'comment';
    }
    if (stream.match(/\/\/.*/)) return 'comment';
    if (stream.match(/\{[^}]*\}?/)) return 'meta';
    if (stream.match(/[A-Za-z]*#?\d[\w.]*/)) return 'number';
    const word = stream.match(/[A-Za-z_]\w*/);
    if (word && typeof word !== 'boolean') {
      const name = word[0].toLowerCase();
      return keywords.has(name) ? 'keyword' : types.has(name) ? 'typeName' : null;
    }
    stream.next();
    return null;
  },
};
