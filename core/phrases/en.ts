/** What the application says to readers, in English. Every other language has the same keys. */
export const en = {
  unsubscribe: "Unsubscribe",
  unsubscribeAsk: "Unsubscribe?",
  unsubscribed: "You are unsubscribed",
  noMore: (email: string) => `No more emails from us will go to ${email}.`,
  testNobody: "This is a test message: nobody will be taken off.",
  testTakenOff: "This was a test message: nobody has been taken off.",
  changeInstead: "Or choose what you get instead",
  preferences: "What you get from us",
  preferencesFor: (email: string) => `These choices are for ${email}.`,
  topicsLabel: "I would like to get",
  save: "Save my choices",
  saved: "Your choices are saved.",
  nothingAtAll: "Nothing at all, please",
  back: "Get emails from us again",
  leftAll: "You get nothing from us at the moment.",
  join: "Sign up",
  joinEmail: "Email address",
  joinSend: "Sign me up",
  joinWrong: "This is not a mail address.",
  joinTooOften: "That was a little too often. Please try again in a few minutes.",
  joinCheck: "One more step",
  joinCheckWords: (email: string) =>
    `We have sent an email to ${email}. Open it and confirm that you would like to hear from us; nothing else will come before you do.`,
  confirmSubject: (brand: string) => `Please confirm: news from ${brand}`,
  confirmBody: (brand: string) =>
    `Somebody, probably you, asked for emails from ${brand}. To say yes, follow this link:`,
  confirmIgnore: "If it was not you, do nothing: you will not hear from us again.",
  confirmButton: "Yes, send me the emails",
  confirmAsk: "Would you like to hear from us?",
  confirmed: "Thank you, you are signed up",
  confirmedWords:
    "You can choose what you get, or leave, with the links at the end of every email.",
  confirmGone: "This link has been used or is too old. Sign up again to get a new one.",
  incomplete: "This address is not complete.",
};
export type Phrases = typeof en;
