import type { Phrases } from "./en.ts";

export const fr: Phrases = {
  unsubscribe: "Se désabonner",
  unsubscribeAsk: "Se désabonner ?",
  unsubscribed: "Vous êtes désabonné",
  noMore: (email) => `Plus aucun message de notre part ne sera envoyé à ${email}.`,
  testNobody: "Ceci est un message d’essai : personne ne sera désabonné.",
  testTakenOff: "C’était un message d’essai : personne n’a été désabonné.",
  changeInstead: "Ou choisir ce que vous recevez",
  preferences: "Ce que vous recevez de nous",
  preferencesFor: (email) => `Ces choix valent pour ${email}.`,
  topicsLabel: "J’aimerais recevoir",
  save: "Enregistrer mes choix",
  saved: "Vos choix sont enregistrés.",
  nothingAtAll: "Plus rien du tout, s’il vous plaît",
  back: "Recevoir de nouveau nos messages",
  leftAll: "Vous ne recevez rien de nous en ce moment.",
  join: "S’inscrire",
  joinEmail: "Adresse e-mail",
  joinSend: "M’inscrire",
  joinWrong: "Ce n’est pas une adresse e-mail.",
  joinTooOften: "C’était un peu trop souvent. Réessayez dans quelques minutes.",
  joinCheck: "Encore une étape",
  joinCheckWords: (email) =>
    `Nous avons envoyé un message à ${email}. Ouvrez-le et confirmez que vous souhaitez nous lire ; rien d’autre n’arrivera avant.`,
  confirmSubject: (brand) => `À confirmer : les nouvelles de ${brand}`,
  confirmBody: (brand) =>
    `Quelqu’un, sans doute vous, a demandé les messages de ${brand}. Pour dire oui, suivez ce lien :`,
  confirmIgnore: "Si ce n’était pas vous, ne faites rien : vous n’entendrez plus parler de nous.",
  confirmButton: "Oui, envoyez-moi les messages",
  confirmAsk: "Souhaitez-vous nous lire ?",
  confirmed: "Merci, vous êtes inscrit",
  confirmedWords:
    "Les liens à la fin de chaque message permettent de choisir ce que vous recevez, ou de partir.",
  confirmGone: "Ce lien a servi ou est trop ancien. Inscrivez-vous de nouveau pour en recevoir un.",
  incomplete: "Cette adresse n’est pas complète.",
};
