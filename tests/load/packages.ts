// Debian font packages that serve as real downloads: every third of those of ordinary size, with papers as they come, and the ones the checks use.

export const PACKAGES: readonly string[] = `
  culmus fonts-adf-accanthis fonts-adf-gillius fonts-adf-libris fonts-adf-romande fonts-adf-tribun fonts-agave fonts-anonymous-pro fonts-arabeyes
  fonts-arphic-bkai00mp fonts-arphic-gkai00mp fonts-averia-sans-gwf fonts-babelstone-modern fonts-beteckna fonts-breip fonts-cabin fonts-cabinsketch
  fonts-cantarell fonts-cardo fonts-cherrybomb fonts-cmu fonts-comfortaa fonts-courier-prime fonts-crosextra-carlito fonts-cwtex-heib
  fonts-dancingscript fonts-dejavu-core fonts-dejavu-extra fonts-deva-extra fonts-dotgothic16 fonts-dustin fonts-ebgaramond fonts-ebgaramond-extra
  fonts-eeyek fonts-entypo fonts-evertype-conakry fonts-fantasque-sans fonts-farsiweb fonts-firacode fonts-fork-awesome fonts-freefarsi fonts-gargi
  fonts-gfs-artemisia fonts-gfs-complutum fonts-gfs-gazis fonts-gfs-porson fonts-glyphicons-halflings fonts-gotico-antiqua fonts-gujr-extra fonts-havana
  fonts-hosny-amiri fonts-hosny-thabit fonts-inter-variable fonts-ipafont-gothic fonts-jetbrains-mono fonts-jsmath fonts-kacst-one fonts-karmilla
  fonts-khmeros fonts-konatu fonts-lato fonts-league-mono fonts-levien-museum fonts-lexi-saebom fonts-liberation2 fonts-linex fonts-linuxlibertine
  fonts-lmodern fonts-lobster fonts-lohit-beng-assamese fonts-lohit-deva-marathi fonts-lohit-knda fonts-lohit-taml fonts-lxgw-wenkai-doc fonts-manrope
  fonts-mathjax fonts-misaki fonts-monapo fonts-monoid fonts-monoid-loose fonts-morisawa-bizud-mincho fonts-mph-2b-damase fonts-nakula fonts-navilu
  fonts-noto-core fonts-ocr-a fonts-oflb-euterpe fonts-open-sans fonts-oradano-mincho-gsrr fonts-oxygen fonts-paratype fonts-play fonts-quattrocento
  fonts-rit-sundar fonts-roboto-slab fonts-sahadeva fonts-samyak-deva fonts-samyak-orya fonts-sawarabi-mincho fonts-sil-akatab fonts-sil-andika-compact
  fonts-sil-awami-nastaliq fonts-sil-dai-banna fonts-sil-ezra fonts-sil-gentium-basic fonts-sil-lateef fonts-sil-mondulkiri-extra fonts-sil-scheherazade
  fonts-sil-shimenkan-guifan fonts-sil-shimenkan-salaowu fonts-sil-shimenkan-zonghe fonts-sil-taiheritagepro fonts-smc-anjalioldlipi fonts-smc-gayathri
  fonts-smc-manjari fonts-smc-raghumalayalamsans fonts-smiley-sans fonts-stix fonts-takao-gothic fonts-taml-tscu fonts-terminus fonts-thai-tlwg-otf
  fonts-tibetan-machine fonts-tlwg-garuda-otf fonts-tlwg-kinnari-otf fonts-tlwg-laksaman-otf fonts-tlwg-loma-otf fonts-tlwg-mono-otf
  fonts-tlwg-norasi-otf fonts-tlwg-purisa-otf fonts-tlwg-sawasdee-otf fonts-tlwg-typewriter-otf fonts-tlwg-typist-otf fonts-tlwg-typo-otf
  fonts-tlwg-umpush-otf fonts-tlwg-waree-otf fonts-triod-postnaja fonts-umeplus fonts-unikurdweb fonts-vollkorn fonts-yanone-kaffeesatz
  ttf-bitstream-vera
`
  .split(/\s+/)
  .filter(Boolean);
