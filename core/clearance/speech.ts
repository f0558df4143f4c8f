// Speech acts: whether a sentence permits, forbids or conditions what its reader does with the fonts, or tells, asks, wishes, instructs, or
// speaks of other things. Phrasings: common practice, no source.

/** Why a sentence that has words of a statement is none. */
export type Aside =
  | "question"
  | "story"
  | "files"
  | "derivatives"
  | "documents"
  | "other-things"
  | "instruction"
  | "quoted"
  | "change"
  | "other-files"
  | "other-fonts"
  | "outranked"
  | "person";

export const ASIDE_WORDS: Record<Aside, string> = {
  question: "It is a question.",
  story: "It tells a story; it neither allows nor forbids anything.",
  files: "It speaks of the font files, not of what is made with the letters.",
  derivatives: "It speaks of fonts made from this one.",
  documents: "It speaks of a document.",
  "other-things": "It speaks of something other than the fonts.",
  instruction: "It tells how something is done.",
  quoted: "It is quoted from mail.",
  change: "It stands in a list of changes.",
  "other-files": "It speaks of other files.",
  "other-fonts": "It speaks of other fonts.",
  outranked: "What stands in a licence, or nearer to one, counts before it.",
  person: "You left it out.",
};

/** Giving the font files themselves to others is no use of the letters. */
const ABOUT_FILES =
  /\b(redistribut\w*|re-?sell(ing)? (the |this )?(font|file)s?|selling (only )?(the |this |your )?(font|file)s?|re-?sold|sell (the |this |these )?(font|file|software)s?( itself| themselves)?|(font|file)s? (itself |themselves )?(may|can|must|should)( not)? be (sold|redistributed|shared|uploaded|bundled)|(sold|selling) (by itself|by themselves|on (its|their) own|separately|alone)|give (the |this |these )?((font|files?) )+to others|share (the |this |these )?(font|file)s?|upload|bundl(e|ed|ing)|distribut\w*|warrant\w*|liab\w*|convert\w*|reverse[- ]engineer\w*|source|server|install|posted|font software|font programs?|cop(y|ies) of (the |this )?(font|software)|advertis\w*|use of the name|endorse\w*|included in (a |an |any |the |other |larger |your )*(software|programs?|packages?|compilations?|collections?|apps?|bundles?)|(whole|entire) fonts?|merchantab\w*|the above copyright notice|all copies)\b/;
const DERIVATIVES =
  /\b(changed fonts?|changes to the fonts?|own versions?|new versions of|derivative|derived|modif(y|ied|ying|ication|ications)|altered|renamed?|renaming|changed versions?|fonts? (made|based) (from|on)|forks?|reserved (font )?names?)\b/;
/** What a sentence begins with, up to a hundred characters: the thing it speaks of. */
const DOCUMENT_FIRST =
  /^(no part of )?(((the|this|our|my) )+(texts?|contents?|pages?|web ?sites?|sites?|videos?|films?) |((the|this|these|any|all|a|an|your|our|such) )*(resulting |printed |pdf )?(documents?|books?|manuals?|specimens?|documentation|articles?|publication|faq|readme|read me|notes?)\b)(?!,? (made|set|printed|created|designed|typeset) (with|in|using))/;
/** What a licence says of the documents themselves: whether they come under it. */
const COVERED =
  /\b(resulting document|document (itself )?(to be |being |is |are )?(not )?covered|licen[cs]e of the document|part of the document)\b/;
const THING_FIRST =
  /^((the|this|these|any|all|some|many|most|your|our|its|their|other|old|older|certain|such|a|an|build|python|perl|shell|test|example|debian|sample) )*(scripts?|tools?|programs?|editors?|converters?|generators?|plug-?ins?|themes?|games?|mock-?ups?|installers?|viewers?|font managers?|tutorials?|patterns?|textures?|illustrations?|icons|templates?|code|sources?|source code|source files?|applications?|apps?|librar(y|ies)|packaging|pictures?|images?|photos?|photographs?|previews?|artworks?|drawings?|logos?|trademarks?|names?|servers?|browsers?|makefiles?|data|examples?|stylesheets?|icons on)\b/;

const OTHER_LICENCE =
  /^(the|its|their) licen[cs]es? (of|for) (the |our |my |this )?(pictures?|images?|photos?|old|older|previous|first|other|scripts?|code|program|software|text|manual|documentation|web ?site)\b/;
const NAMES = /\b(use|using|used|uses) (of )?(the|its|our|my|his|her|this) (font |own )?(names?|trademarks?|logos?|marks?)\b/;
const FILE_FIRST = /^((the|this|these|any|all|no|a) )*(original )?(font )?files?\b/;
/** "They were not allowed": what held once, for others. */
const PAST_RULE =
  /\b(was|were|had been|used to be)( not| never| only)? (allowed|permitted|free|licen[cs]ed|meant|intended|sold|used|embedded|forbidden|prohibited)\b/;

/** Whoever speaks for themselves, with words that bind: "I hereby grant", "we do not allow". */
const PERFORMS =
  /\b(i|we)( (hereby|only|do|not|don['’]t|also|will|can|cannot|can['’]t|would|kindly|explicitly|expressly|therefore|now|gladly|happily))* (grant|allow|permit|give|release|licen[cs]e|place|put|dedicate|waive|ask|require|request|forbid|prohibit|authori[sz]e|reserve|want (you|it|them|this|the|my|anyone|anybody)|wish|would like|like|expect|demand|insist|mind|object|offer|declare|agree|let)\b/;
const SPEAKS_FOR_SELF =
  /^((so|but|and|as|since|because|although|though|while|when|if|after|before|years ago|today|now),? )?(i|i['’]m|i['’]ve|i['’]d|we|we['’]re|we['’]ve|he|she|my|our)\b/;
const TELLS_PAST =
  /\b(was|were|had|did|didn['’]t|could|couldn['’]t|wouldn['’]t|started|began|drew|made it|no longer exists?|used to be|ago|wanted|needed|asked|decided|tried|liked|hoped|thought|helped|finished|learned|painted|came|became|bought|told|knew|took|gave|got|left|found)\b/;
const BINDS =
  /\b(may|must|shall|can|cannot|can['’]t|free|allowed|permitted|prohibited|forbidden|requires?|required|needs?|only|not for|not licen[cs]ed|is|are|isn['’]t|aren['’]t)\b/;
const INSTRUCTS =
  /^(\d{1,2}[.)] )?(then |now |first |please |just |simply |to \w+, )?(install|uninstall|close|reopen|restart|unzip|unpack|extract|click|double-click|drag|type|select|press|copy text|make sure|build|compile|run|open your|open the|go to|check (if|that|whether)|choose|scroll|do not copy|(do not|don['’]t|never) (forget|change|rename|move|delete|open|close|expect|worry|confuse|mix)|remember to|set \w+ to|in the menu|under \w+ choose|be aware|keep in mind)\b/;
/** How a program or a device behaves. */
const BEHAVES =
  /\b((does|do|did|will)( not|n['’]t) (appear|show|display|render|load|work|open|print|support|recogni[sz]e|like|see|find|handle)|(can|could)( not|not|n['’]t) (see|read|find|open|load|display|render|edit|be edited|be displayed|be seen))\b/;

/** Beginnings of lines that belong to no sentence: marks, numbers, "Note:". */
const BEGINNING = /^([-*•·◦–—#>|]+ ?|\(?\d{1,3}(\.\d{1,3}){0,3}[.):]? |(please )?note( that)?:? |nb:? |also,? )+/;

/** Why a sentence, in small letters, is no statement about using these fonts; undefined when it may be one. */
export function asideOf(sentence: string): Aside | undefined {
  const plain = sentence.replace(BEGINNING, "");
  const start = plain.slice(0, 100);
  if (DOCUMENT_FIRST.test(start) || COVERED.test(plain)) return "documents";
  if (THING_FIRST.test(start) || OTHER_LICENCE.test(start)) return "other-things";
  if (INSTRUCTS.test(start)) return "instruction";
  if (FILE_FIRST.test(start) && !/\bpublic domain\b/.test(plain)) return "files";
  if (BEHAVES.test(plain) || NAMES.test(plain)) return "other-things";
  if (DERIVATIVES.test(plain)) return "derivatives";
  if (PERFORMS.test(plain)) return undefined;
  if (SPEAKS_FOR_SELF.test(start)) return "story";
  if (PAST_RULE.test(plain)) return "story";
  if (TELLS_PAST.test(plain) && !BINDS.test(plain)) return "story";
  return undefined;
}

/** Whether it speaks of the font files alone. What else the sentence says of uses is not counted. */
export const speaksOfFiles = (sentence: string): boolean => ABOUT_FILES.test(sentence);
