/**
 * Words that leave a requirement open, by kind. Kinds after ISO/IEC/IEEE 29148:2018, 5.2.7 (unbounded or ambiguous terms to be avoided):
 * subjective language, ambiguous adverbs and adjectives, superlatives, comparative phrases, open-ended terms, loopholes. The words are our own
 * choice, common practice.
 */
export interface WordRule {
  readonly rule: string;
  readonly reason: string;
  readonly suggestion: string;
  readonly words: string;
}

export const wordRules: readonly WordRule[] = [
  {
    rule: 'vague time',
    reason: 'says no time that could be measured',
    suggestion: 'Give a deadline with a unit, such as "within 2 s".',
    words:
      'promptly|quickly|fast|rapidly|soon|timely|in good time|without delay|immediately|instantly|as soon as possible|in time|slowly|eventually|periodically|regularly|frequently|shortly|momentarily|swiftly|at once',
  },
  {
    rule: 'vague amount',
    reason: 'says no amount that could be measured',
    suggestion: 'Give a number with its unit, and the tolerance.',
    words:
      'about|approximately|roughly|nearly|almost|several|many|few|some|sufficient|sufficiently|adequate|adequately|reasonable|reasonably|significant|significantly|minimal|maximal|large|small|high|low|substantial|enough|considerable|excessive|excessively|too high|too low|as low as possible|as high as possible',
  },
  {
    rule: 'subjective',
    reason: 'is a matter of opinion, not of a test',
    suggestion: 'Say what would be measured, or verify it by inspection.',
    words:
      'sensible|sensibly|user[- ]friendly|easy|easily|simple|simply|convenient|comfortable|comfortably|gently|smooth|smoothly|accurate|accurately|precise|precisely|robust|robustly|reliable|reliably|safe|safely|secure|securely|efficient|efficiently|effective|effectively|flexible|intuitive|good|bad|nice|optimal|optimally|best|appropriate|appropriately|proper|properly|correct|correctly|normal|normally|suitable|suitably|acceptable|clean|modern|seamless',
  },
  {
    rule: 'loophole',
    reason: 'lets the requirement be left undone',
    suggestion: 'State the condition in which it holds, or take it out.',
    words:
      'if possible|where possible|as far as possible|if practical|where practicable|as appropriate|if necessary|when necessary|as required|as needed|if needed|to the extent possible|usually|generally|typically|preferably|should|may|might|could|as specified|in principle',
  },
  {
    rule: 'open list',
    reason: 'does not say where it ends',
    suggestion: 'List everything that is meant.',
    words: 'etc|and so on|and the like|such as|for example|e\\.g|including but not limited to|including|among others|at least the following|and/or',
  },
  {
    rule: 'placeholder',
    reason: 'has not been decided',
    suggestion: 'Decide it, or mark the requirement as not to be tested yet.',
    words: 'tbd|tbc|tba|to be defined|to be determined|to be confirmed|xx+|\\?\\?+',
  },
  {
    rule: 'comparative',
    reason: 'compares with something that is not named',
    suggestion: 'Name the value it is compared with.',
    words: 'better|worse|faster|slower|improved|optimi[sz]ed|as good as',
  },
];

/** Verbs that say somebody does something; in the passive they do not say who. */
export const deeds =
  'ensured|provided|handled|processed|monitored|checked|verified|logged|recorded|notified|informed|avoided|prevented|considered|supported|managed|performed|carried out|taken|guaranteed|achieved|observed|respected|treated|supervised';
