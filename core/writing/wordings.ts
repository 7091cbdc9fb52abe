/** Wordings and their plainer or shorter twins. An empty twin leaves the words out. */

export interface Wording {
  readonly long: string;
  readonly plain: string;
}
const list = (text: string): Wording[] =>
  text
    .trim()
    .split("\n")
    .map((one) => {
      const [long = "", plain = ""] = one.split("→").map((part) => part.trim());
      return { long, plain };
    });

export const WORDINGS: Readonly<Record<string, readonly Wording[]>> = {
  en: list(`
    in order to → to
    so as to → to
    due to the fact that → because
    in view of the fact that → because
    in spite of the fact that → although
    at this point in time → now
    at the present time → now
    in the near future → soon
    in the event that → if
    on a daily basis → daily
    on a weekly basis → weekly
    on a regular basis → regularly
    a large number of → many
    a number of → some
    the majority of → most
    with regard to → about
    with reference to → about
    in relation to → about
    for the purpose of → for
    in addition to → besides
    in addition → also
    prior to → before
    subsequent to → after
    is able to → can
    are able to → can
    has the ability to → can
    make a decision → decide
    make use of → use
    take into consideration → consider
    please do not hesitate to → please
    we would like to invite you to → please
    we are pleased to announce that →
    it is important to note that →
    please note that →
    each and every → every
    first and foremost → first
    free gift → gift
    utilise → use
    utilize → use
    utilising → using
    utilizing → using
    commence → begin
    commences → begins
    purchase → buy
    purchasing → buying
    require → need
    requires → needs
    assist → help
    assistance → help
    additional → more
    approximately → about
    numerous → many
    sufficient → enough
    regarding → about
    obtain → get
    endeavour → try
    terminate → end
    facilitate → help
    demonstrate → show
    participate → take part
    inform → tell
    very → 
    really → 
    actually → 
    basically → 
    simply → 
    quite → 
    absolutely → `),
  fr: list(`
    afin de → pour
    dans le but de → pour
    en raison du fait que → parce que
    à l’heure actuelle → maintenant
    à l'heure actuelle → maintenant
    dans un avenir proche → bientôt
    au cas où → si
    un grand nombre de → beaucoup de
    la majorité des → la plupart des
    en ce qui concerne → pour
    préalablement à → avant
    postérieurement à → après
    est en mesure de → peut
    sont en mesure de → peuvent
    prendre une décision → décider
    n’hésitez pas à → 
    n'hésitez pas à → 
    veuillez noter que → 
    utiliser → employer
    débuter → commencer
    effectuer → faire
    procéder à → faire
    solliciter → demander
    nécessiter → demander
    approximativement → environ
    très → 
    vraiment → 
    absolument → `),
};

/** Words that promise, press or shout: readers and filters meet them with mistrust. */
export const MISTRUSTED: Readonly<Record<string, readonly string[]>> = {
  en: [
    "act now",
    "buy now",
    "click here",
    "risk free",
    "risk-free",
    "guaranteed",
    "100% free",
    "no obligation",
    "once in a lifetime",
    "limited time only",
    "last chance",
    "don't miss",
    "don’t miss",
    "hurry",
    "winner",
    "cheapest",
    "amazing",
    "incredible",
  ],
  fr: [
    "cliquez ici",
    "dernière chance",
    "offre exceptionnelle",
    "garanti",
    "gratuit à 100",
    "ne manquez pas",
    "dépêchez-vous",
    "incroyable",
  ],
};

export const languageOf = (lang: string): string => lang.slice(0, 2).toLowerCase();
