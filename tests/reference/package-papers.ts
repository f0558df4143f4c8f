// Debian font packages and the licence their fonts are under, told by reading all their papers: the SPDX expression, or in words what the odd ones
// say; families of a package that differ follow after a semicolon. What a licence field forbids beside a licence makes a conflict, and the stricter
// holds (of fonts-taml-tscu that was found when it was first cleared, not before). Which third is kept unseen is told by a package's name alone (sha-256 of it, divisible by three).

/** Read, and used while the reader was made. */
export const STUDIED_PACKAGES = `
  fonts-3270: BSD-3-Clause OR OFL-1.1
  fonts-adf-accanthis fonts-adf-baskervald fonts-adf-berenis fonts-adf-ikarius fonts-adf-libris fonts-adf-mekanus: GPL-2.0-or-later WITH Font-exception-2.0
  fonts-adf-oldania fonts-adf-romande fonts-adf-switzera fonts-adf-tribun fonts-adf-universalis fonts-adf-verana: GPL-2.0-or-later WITH Font-exception-2.0
  fonts-alee fonts-f500: Artistic-1.0
  fonts-aksharyogini2 fonts-allerta fonts-amiga fonts-apropal fonts-averia-serif-gwf fonts-b612 fonts-babelstone-modern fonts-bajaderka: OFL-1.1
  fonts-bebas-neue fonts-blankenburg fonts-bwht fonts-cabin fonts-cabinsketch fonts-campania fonts-cherrybomb fonts-comfortaa: OFL-1.1
  fonts-comic-neue fonts-dancingscript fonts-ebgaramond fonts-ecolier-court fonts-ecolier-lignes-court fonts-entypo fonts-ferrite-core: OFL-1.1
  fonts-gamaliel fonts-gemunu-libre fonts-gfs-artemisia fonts-gfs-baskerville fonts-gfs-complutum fonts-gfs-didot fonts-gfs-didot-classic: OFL-1.1
  fonts-gfs-olga fonts-gfs-porson fonts-gfs-solomos fonts-gfs-theokritos fonts-gnutypewriter fonts-gotico-antiqua fonts-hosny-thabit: OFL-1.1
  fonts-humor-sans fonts-inconsolata fonts-jetbrains-mono fonts-joscelyn fonts-karla fonts-kristi fonts-league-mono fonts-leckerli-one: OFL-1.1
  fonts-lemonada fonts-levien-museum fonts-lobstertwo fonts-lohit-beng-bengali fonts-lohit-deva fonts-lohit-guru fonts-lohit-mlym: OFL-1.1
  fonts-lohit-orya fonts-manchufont fonts-manrope fonts-meera-inimai fonts-monofur fonts-navilu fonts-oflb-asana-math fonts-oflb-euterpe: OFL-1.1
  fonts-oldstandard fonts-quattrocento fonts-routed-gothic fonts-senamirmir-washra fonts-sil-dai-banna fonts-sil-ezra fonts-sil-gentium-basic: OFL-1.1
  fonts-sil-sophia-nubian fonts-sil-zaghawa-beria fonts-sixtyfour fonts-smc-chilanka fonts-sora fonts-stix fonts-triod-postnaja fonts-uniol: OFL-1.1
  fonts-dzongkha: OFL-1.0
  fonts-aoyagi-kouzan-t fonts-goudybookletter fonts-mph-2b-damase fonts-ocr-a fonts-ocr-b fonts-prociono fonts-tuffy: public domain
  fonts-atarismall: in words: free, to use as you please
  fonts-misaki: in words: unlimited permission to use, also commercially
  fonts-arkpandora fonts-arundina fonts-dejavu-core ttf-bitstream-vera: Bitstream-Vera
  fonts-farsiweb fonts-kacst-one fonts-lklug-sinhala fonts-lexi-saebom fonts-sarai fonts-taml-tamu fonts-uralic: GPL-2.0-only
  fonts-dustin fonts-gargi fonts-sahadeva: GPL-2.0-or-later
  fonts-beteckna: GPL-3.0-only WITH Font-exception-2.0
  fonts-sambhota-tsugring fonts-sambhota-yigchung: GPL-1.0-or-later
  fonts-tibetan-machine: GPL-2.0-or-later WITH Font-exception-2.0
  fonts-khmeros fonts-lao: LGPL-2.1-or-later
  fonts-staypuft: LGPL-2.0-only
  fonts-gubbi fonts-sjfonts fonts-unikurdweb: GPL-2.0-or-later WITH Font-exception-2.0
  fonts-liberation: GPL-2.0-only WITH Font-exception-2.0
  fonts-osifont: GPL-3.0-only WITH Font-exception-2.0
  fonts-pagul fonts-rufscript fonts-smc-suruma fonts-tiresias: GPL-3.0-or-later WITH Font-exception-2.0
  fonts-samyak-deva fonts-samyak-gujr fonts-samyak-mlym fonts-samyak-orya fonts-samyak-taml: GPL-3.0-or-later WITH Font-exception-2.0
  fonts-oxygen: GPL-3.0-only WITH Font-exception-2.0 OR OFL-1.1
  fonts-essays1743 fonts-isabella: LGPL-2.1-or-later OR OFL-1.1
  fonts-georgewilliams: BSD-3-Clause OR OFL-1.1
  fonts-monoid fonts-monoid-tight: MIT OR OFL-1.1
  fonts-clear-sans fonts-open-sans: Apache-2.0
  fonts-fanwood fonts-glyphicons-halflings fonts-powerline: MIT
  fonts-spleen: BSD-2-Clause
  fonts-fantasma: CC0-1.0
  fonts-glasstty: Unlicense
  fonts-femkeklaver: CC-BY-SA-3.0
  fonts-tagbanwa: CC-BY-3.0
  fonts-opendyslexic: CC-BY-3.0 AND Bitstream-Vera
  fonts-cardo: OFL-1.1, and in the licence field "free for personal, non-commercial, or non-profit use. Any other commercial use requires the purchase of an appropriate license."
  fonts-pc-extra: CC-BY-SA-4.0; Px ATT PC6300: CC-BY-SA-4.0, and in the licence field CC-BY-NC-SA-4.0
`;

/** Read, and never used while the reader was made. */
export const UNSEEN_PACKAGES = `
  fonts-adf-gillius fonts-adf-irianis fonts-adf-solothurn: GPL-2.0-or-later WITH Font-exception-2.0
  fonts-agave fonts-katex fonts-lindenhill: MIT
  fonts-anonymous-pro fonts-arapey fonts-averia-gwf fonts-averia-sans-gwf fonts-cantarell fonts-courier-prime fonts-crosextra-caladea: OFL-1.1
  fonts-crosextra-carlito fonts-ddc-uchen fonts-dosis fonts-dseg fonts-eeyek fonts-elusive-icons fonts-eurofurence fonts-evertype-conakry: OFL-1.1
  fonts-gfs-bodoni-classic fonts-gfs-gazis fonts-gfs-neohellenic fonts-havana fonts-hosny-amiri fonts-junction fonts-jura fonts-kalapi: OFL-1.1
  fonts-kaushanscript fonts-klaudia-berenika fonts-ldco fonts-league-spartan fonts-levien-typoscript fonts-lobster fonts-mononoki: OFL-1.1
  fonts-lohit-beng-assamese fonts-lohit-deva-marathi fonts-lohit-knda fonts-lohit-taml-classical fonts-lohit-telu fonts-national-park: OFL-1.1
  fonts-noto-mono fonts-okolaks fonts-opendin fonts-radisnoir fonts-rit-sundar fonts-sil-galatia: OFL-1.1
  fonts-smc-keraleeyam fonts-smc-manjari fonts-smiley-sans fonts-tomsontalks fonts-yanone-kaffeesatz fonts-yrsa-rasa: OFL-1.1
  fonts-breip fonts-century-catalogue: OFL-1.0
  fonts-motoya-l-cedar fonts-roboto-slab: Apache-2.0
  fonts-go: BSD-3-Clause
  fonts-jsmath: public domain
  fonts-freefarsi fonts-nakula fonts-orya-extra fonts-summersby: GPL-2.0-or-later
  fonts-lexi-gulim fonts-nafees: GPL-2.0-only
  fonts-taml-tscu: GPL-2.0-only; TSCu_Paranar: GPL-2.0-only, and in the licence field "Not for commercial use"
  fonts-engadget: LGPL-2.0-only
  fonts-pc: CC-BY-SA-4.0
  fonts-sawarabi-gothic: CC-BY-3.0
`;

export const namesIn = (table: string): [name: string, licence: string][] =>
  table
    .split("\n")
    .filter((line) => line.includes(":"))
    .flatMap((line) => {
      const at = line.indexOf(": ");
      return line
        .slice(0, at)
        .trim()
        .split(/\s+/)
        .map((name): [string, string] => [name, line.slice(at + 2).trim()]);
    });
