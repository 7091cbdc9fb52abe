/** Every limit on sizes, counts and times that a person can meet, in one place. */
export const LIMITS = {
  /** Fields of a form that is sent, entries of a list in it, and how deep their names go. */
  formFields: 2_000,
  formItems: 1_000,
  formDepth: 6,
  /** Bytes of what is sent, by kind of address: see server/http/bodies.ts. */
  publicForm: 64_000,
  form: 1_000_000,
  pasteForm: 8_000_000,
  /** Width of the email in CSS pixels. */
  emailWidth: { min: 480, max: 700, standard: 600 },
  /** Width of the narrow sheet in CSS pixels. */
  narrowWidth: 375,
  columnsPerBand: 4,
  /** Further colours of a theme, and characters of what it says about new blocks. */
  palette: 16,
  /** Saved blocks of a house, and how many pieces one has. */
  savedBlocks: 500,
  /** On a page of the library, and in the tray: the others are searched. */
  savedPerPage: 24,
  filesPerPage: 25,
  savedInTray: 40,
  savedNodes: 60,
  /** Themes of a house; letters of a page and its sheets that a theme is proposed from. */
  themes: 60,
  pageLook: 2_000_000,
  themeStarts: 20_000,
  /** Steps of spacing that a theme names. */
  spacingSteps: 8,
  /** A font file, bytes: readers load it before they see it. */
  fontBytes: 390 * 1024,
  /** What its tables may come to. */
  fontUnpacked: 12_000_000,
  fonts: 60,
  /** A file that a link leads to, bytes. */
  fileBytes: 10_000_000,
  files: 5_000,
  /** A theme as a form carries it, characters. */
  themeFile: 60_000,
  /** Sides of boxes, borders and corners, px. */
  padding: 120,
  border: 12,
  corner: 60,
  /** Height of empty room, px. */
  spacer: { least: 4, most: 200 },
  bandHeight: 800,
  /** Rows and columns of a table block. */
  tableRows: 120,
  tableColumns: 10,
  nodesPerDocument: 2_000,
  /** Characters. */
  lineLength: 1_000,
  nameLength: 120,
  /** Letters of a sentence or two about something. */
  aboutLength: 400,
  addressLength: 254,
  webAddressLength: 2_000,
  /** Parameters that are added to addresses, and characters of what one says. */
  linkParameters: 8,
  parameterWords: 120,
  /** Characters of plain text written by hand for a block, and of an HTML block. */
  handText: 20_000,
  handTextAlternatives: 20,
  htmlSource: 60_000,
  /** Emails whose addresses are offered for new links, and how many of them. */
  addressDocuments: 25,
  addressesOffered: 200,
  /** Earlier subjects that a new one is compared with. */
  earlierSubjects: 60,
  /** Characters taken in by one paste. */
  pasteText: 60_000,
  /** What a QR code can hold and still be read off a screen. */
  /** Characters of words that are drawn in a picture. */
  drawnWords: 80,
  qrLength: 300,
  /** Characters of a line of plain text (RFC 3676, 4.2 recommends no more than 78). */
  textLine: 72,
  /** Bytes of HTML after which a well-known kind of webmail cuts the email off. */
  htmlBytes: 102 * 1024,
  /** Bytes of one edit, of what a browser sends at a time, and of what is taken at a time. */
  editBytes: 1_000_000,
  editBatch: 3_000_000,
  editRequest: 4_000_000,
  editsPerRequest: 200,
  /** Changes that one step is made of. */
  editParts: 5_000,
  /** Steps listed in the history, kept moments of one email, and those kept by themselves. */
  historySteps: 300,
  moments: 100,
  automaticMoments: 20,
  /** Own steps that can be taken back, and the edits of all that are kept in the browser for it. */
  undoSteps: 200,
  undoEdits: 2_000,
  /** Typing in one text is one step while hands rest no longer than this, and for so long at most, ms. */
  stepRest: 3_000,
  stepLength: 20_000,
  /** Steps of typing that travel as one edit. */
  joinedSteps: 400,
  /** Bytes of one uploaded picture, and its sides in pixels. */
  pictureBytes: 8_000_000,
  /** Bytes of one that is made smaller on the way in, and of an animation as readers load it. */
  pictureUpload: 40_000_000,
  /** Images within a file that carries an email. */
  picturesInFile: 400,
  /** Of an email from elsewhere: letters of its HTML, its elements, how deep they stand in each other, rules of its styles. */
  foreignHtml: 5_000_000,
  foreignNodes: 60_000,
  foreignDepth: 250,
  foreignStyles: 3_000,
  /** Of the file it comes in: bytes, bytes once unpacked, files in it. */
  foreignUpload: 30_000_000,
  foreignUnpacked: 80_000_000,
  foreignFiles: 500,
  /** Letters of its HTML that are shown as it came. */
  foreignShown: 2_000_000,
  /** Reading it, and fetching its images, ms. */
  foreignMs: 20_000,
  foreignFetchMs: 25_000,
  /** Memory that reading it may take, MB, and how many are read at once. */
  foreignHeap: 600,
  foreignThreads: 2,
  /** Images that are fetched, and how many at a time. */
  foreignPictures: 80,
  foreignAtOnce: 6,
  /** Its merge tags that a person is asked about. */
  foreignTags: 60,
  /** What somebody brought and did not use is kept for so many days. */
  arrivalDays: 2,
  animationBytes: 2_000_000,
  pictureSide: 8_000,
  /** The longer side of what is kept of a larger image, so that a part of it can be cut out, px. */
  masterSide: 4_000,
  /** Letters of what a page for readers says in a house's own words. */
  pageWords: 400,
  /** Pieces of writing on an image. */
  pictureWords: 6,
  /** Folders of images; labels of one, and letters of each. */
  pictureFolders: 200,
  pictureLabels: 12,
  /** Campaigns whose template has changed that are looked at together. */
  carriedAtOnce: 24,
  /** Images that are handled together; those that look like one that are shown. */
  picturesTogether: 200,
  alikeShown: 12,
  /** How long a picture may take to be drawn, ms, its process to start, ms, and how many are drawn at a time. */
  pictureMs: 20_000,
  pictureStartMs: 30_000,
  picturesAtOnce: 2,
  /** How many pictures from outside one process draws before another takes its place, and how long it waits for one, ms. */
  picturesPerProcess: 50,
  pictureRestMs: 5_000,
  /** How long guesses at misspelled words may take, and until spelling is left out, ms. */
  guessMs: 300,
  spellMs: 8_000,
  /** Misspelled words that are told of an email; words of which is kept whether they are; words of the brand's own. */
  spellingFindings: 24,
  spellingKept: 20_000,
  /** Words of a language that are looked up at once. */
  spellAsked: 5_000,
  ownWords: 5_000,
  /** Contacts whose sights of an email are asked for at once; rows of the wall that are told one by one. */
  sightsAtOnce: 10,
  wallRows: 24,
  /** Addresses of one test send. */
  testAddresses: 10,
  /** Readers as whom one test is filled in; letters of the note on top; groups of addresses. */
  testReaders: 12,
  testNote: 1_000,
  testGroups: 50,
  /** Reviewers of a campaign, comments on it, letters of one. */
  reviewers: 40,
  comments: 500,
  /** The same comment again within this time is one that came twice. */
  commentAgainMs: 10 * 60_000,
  commentLength: 2_000,
  /** How long letters of the application are tried, and how long each waits to be tried again, ms. */
  letterTried: 24 * 3_600_000,
  letterAgain: 5 * 60_000,
  /** Versions that are printed at once. */
  printedVersions: 60,
  /** Characters of one value of a field; choices of one field; fields of one table; tables of records. */
  fieldText: 2_000,
  fieldOptions: 200,
  fields: 200,
  recordTables: 40,
  recordsPerTable: 20_000,
  /** Pointers followed one after the other: the reader’s site › its manager › … */
  recordSteps: 3,
  /** Other languages of one email. */
  languages: 12,
  /** Codes added to a roll at once, bytes of their file, and how many codes that are none there are for each made one. */
  codesAtOnce: 200_000,
  codesBytes: 20_000_000,
  codesSparse: 50,
  /** Cases of a derived tag, and how deep they lead to one another. */
  derivedCases: 40,
  /** Rich words of a derived tag, with their marks, characters. */
  richLength: 20_000,
  derivedSteps: 4,
  /** Conditions of one email. */
  conditions: 300,
  /** Characters of a rule as JSON, where it travels in an address. */
  ruleText: 20_000,
  /** People shown whom a rule catches, and whom it just misses. */
  reachPeople: 10,
  /** Rows of the contacts table sent at a time; entries of a timeline. */
  contactRows: 100,
  /** Contacts whose words are gathered for searching at a time. */
  wordsAtOnce: 1_000,
  /** People picked in the table by one stroke. */
  pickedAtOnce: 5_000,
  timeline: 200,
  /** People written into a file at a time; groups of duplicates shown; characters of addresses held back at once. */
  exportRows: 2_000,
  listAtOnce: 200_000,
  duplicates: 50,
  heldText: 5_000_000,
  rulesDepth: 8,
  /** Conditions of one rule. */
  ruleOwn: 500,
  /** Conditions of a rule with those of the segments it names, and of those that they name, taken in. */
  ruleConditions: 2_000,
  /** Bytes of a file of people, its columns, and the sample that is looked at first. */
  importBytes: 1_000_000_000,
  importJsonBytes: 200_000_000,
  importColumns: 500,
  /** Of a JSON file: records that tell its columns, characters of one, and how deep its values go. */
  importJsonNames: 1_000,
  importRecord: 1_000_000,
  importDepth: 8,
  /** Pieces of a file of 256 KB in which no row comes to its end: then it never will. */
  importSilence: 8,
  importSample: 256 * 1024,
  importSampleRows: 200,
  /** Rows of each kind shown before an import, and of refused ones kept for the download. */
  importShown: 8,
  refusedKept: 200_000,
  /** Days a sign-up waits to be confirmed; how often one address may ask in a span (ms), and one network. */
  signupDays: 14,
  signupsPerAddress: 3,
  signupSpan: 24 * 3_600_000,
  signupsPerNetwork: 10,
  signupNetworkSpan: 10 * 60_000,
  topics: 30,
  /** Days a rule counts back or ahead. */
  ruleDays: 36_500,
  lists: 10_000,
  segments: 10_000,
  /** Characters that are searched for; entries that a search offers to choose from. */
  searchLength: 200,
  found: 50,
  contactsPerPage: 50,
  /** Lists, and segments, on a page of theirs, and segments whose overlap is shown at once. */
  sourcesPerPage: 12,
  overlapAtOnce: 6,
  /** Of lists, and of segments, how many are offered to a campaign without looking for them. */
  sourcesOffered: 12,
  /** Campaigns on a page of their list, and labels on one of them. */
  campaignsPerPage: 25,
  /** Templates on a page; looks of emails that are kept ready. */
  templatesPerPage: 24,
  looks: 300,
  labels: 12,
  labelLength: 40,
  outboxPerPage: 50,
  /** Pictures of the library sent at a time. */
  picturesPerPage: 24,
  /** Sources of items, and what is kept of each: the last items, and of an item so many characters and categories. */
  sources: 200,
  itemsPerSource: 500,
  itemTitle: 300,
  itemSummary: 600,
  itemCategories: 20,
  itemsPerPage: 24,
  /** What a block chooses: its items, its sources; and of how many each reader's own choice is made. */
  choiceItems: 24,
  choicesPerEmail: 60,
  /** Of so many readers it is counted what they have of their own, while an email is made. */
  spreadReaders: 20_000,
  choiceSources: 20,
  choicePool: 300,
  /** Items of a catalogue or a calendar, and fields of theirs beside those of their kind. */
  itemsPerCatalogue: 100_000,
  itemsPerCalendar: 2_000,
  /** What a reader did that is looked at, and sales that are counted. */
  deedsPerReader: 200,
  countedSales: 500_000,
  /** What is read from elsewhere: bytes as they come unpacked, time in all (ms), redirects. */
  fetchBytes: 5_000_000,
  fetchMs: 15_000,
  fetchRedirects: 5,
  /** Links of an email that are asked, how many at once, and how long an answer holds, ms. */
  linksAsked: 100,
  linksAtOnce: 4,
  linkAnswerFresh: 3_600_000,
  linkAnswerDays: 30,
  /** How long one reading of a source goes on fetching pictures, ms: others wait for it. */
  fetchPicturesMs: 45_000,
  /** How often a feed is asked, minutes; and after so many failures in a row. */
  feedEvery: 60,
  /** What a shop tells at once: views, orders, things in an order; rows of a file; bytes of either. */
  shopDeeds: 1_000,
  shopItems: 200,
  shopRows: 100_000,
  shopBytes: 10_000_000,
  /** How often stock and prices are asked for, minutes; and how long a server may tell us to wait, minutes. */
  stockEvery: 15,
  retryAfterMost: 1_440,
  feedWaits: [15, 60, 240, 720, 1_440],
  /** How long what was removed can be put back, days. */
  removedDays: 1,
  /** Rows of it that are kept as one value. */
  removedRows: 20_000,
  /** Days the outbox keeps messages, and the queue what it has done. */
  outboxDays: 180,
  jobDays: 30,
  /** Event streams of one session, and of all. */
  streamsPerSession: 12,
  streams: 500,
  /** Pieces that wait for a stream's reader before it is given up. */
  streamWaiting: 1_000,
  /** Wrong passwords for an account in a span (ms): from one network, and from everywhere. */
  guessesHere: 6,
  guessesEverywhere: 60,
  guessSpan: 60_000,
  /** Days a signed-in session lasts. */
  sessionDays: 30,
  /** Messages handed to the mail service at the same time. */
  sendBatch: 100,
  sendParallel: 8,
  /** Launches whose pace tells how long the next one takes. */
  ratedLaunches: 5,
  ratedFrom: 20,
  /** Campaigns to come that one is held against. */
  clashes: 12,
  /** What a month of the calendar shows. */
  calendarEntries: 500,
  /** Of how many that are to leave, the next first, it says who gets two on a day. */
  calendarClashes: 60,
  /** How long nothing goes to a domain that asks for less haste, ms: the first time, the second … */
  domainWaits: [60_000, 180_000, 600_000, 1_800_000],
  /** How long it is tried to tell another system of a sending, ms. */
  tellForMs: 86_400_000,
  /** Files that go with a message: how many, bytes of each, and of all from which on it is said that they are heavy. */
  attachments: 5,
  attachmentBytes: 3_000_000,
  attachmentsHeavy: 500_000,
  /** Lines of a log that are read at once. */
  logLines: 50,
  /** Zones that contacts name, told apart. */
  zonesNamed: 600,
  /** Messages of a wave. */
  perHour: 1_000_000,
  /** Time after its hand-over from which somebody may have read a message, ms. */
  readFromMs: 1_500,
  /** So many different links of a message followed within so long are a scanner's. */
  scanLinks: 4,
  scanMs: 4_000,
  /** How many opens of one's own weigh as much as what all others do; days that are looked back for them. */
  bestHourWeight: 3,
  bestHourDays: 180,
  /** Readers of whom their best hours are looked at before it is scheduled. */
  bestHourReaders: 5_000,
  /** Characters that somebody can add to an answer. */
  answerWords: 2_000,
  /** Messages that simulated readers read at once, and how many of them act at a time. */
  readAtOnce: 5_000,
  readParallel: 6,
  /** Variants of an email in an A/B test, with the first; per cent of readers they are tried on, and of those who get nothing. */
  variants: 5,
  splitShare: 80,
  splitControl: 50,
  /** Hours after which a test can be decided. */
  splitHours: 240,
  /** Messages that are made ready while those before them are on the line; and how often at most it is written down how they went, ms. */
  sendAhead: 56,
  sendSettleMs: 15,
  /** Requests of readers that are worked on at once, and for how long one counts as that at most (ms). */
  readersAtOnce: 16,
  readerTurnMs: 500,
  /** How long a line without a request is kept: longer than proxies do (ms). */
  keepAliveMs: 75_000,
  /** Connections that wait to be taken: a campaign that is opened by thousands in one minute comes in bursts. */
  backlog: 2_048,
  /** For how long somebody counts as waiting for a page, and how long a message waits for them, first and on the line (ms). */
  visitorMs: 2_000,
  visitorRestMs: 200,
  visitorLineMs: 60,
  /** How many messages are made before threads go on with it, and how many threads. */
  makeHere: 200,
  makers: 4,
  /** What each may gather that hardly lives, MB: messages are made and gone. */
  makerYoungMb: 8,
  /** Of DNS: how long an answer is waited for, and by a page that has others to show; how long it is remembered, and none (ms). */
  dnsMs: 3_000,
  dnsPageMs: 400,
  dnsKeptMs: 10 * 60_000,
  dnsUnknownMs: 30_000,
  dnsDomains: 200,
  /** Of mail that comes in: bytes of one, lines at once, and letters of a service's words that are kept. */
  returnBytes: 1_000_000,
  returnClients: 20,
  replyKept: 500,
  /** Tries for a message the mail service defers, and the minutes before each next one. */
  sendTries: 5,
  sendWaits: [1, 5, 20, 60, 240],
  /** Launches in a row that bounced for now before an address is held back. */
  softBounces: 3,
  /** Waits for a mail service that is not there or will not take anything, ms. */
  serviceWaits: [5_000, 15_000, 60_000, 300_000, 900_000, 3_600_000],
  /** How many of the last answers may refuse a message for what is in it. */
  refusedMessages: 3,
  recentAnswers: 20,
  /** Answers about readers before their share of bounces says anything. */
  bounceAnswers: 50,
  /** How long after a broken line the service is asked whether a message came, ms. */
  askAfter: 10_000,
  /** A launch at readers' own clocks looks again so often whether the first is due, ms: zones differ by as much. */
  firstDueAgain: 15 * 60_000,
  /** A statement that takes longer is logged, ms. */
  slowStatement: 400,
  /** How many statements the database keeps as it has read them, and how long one and a value of it may be, characters. */
  statementsKept: 200,
  statementKept: 20_000,
  statementValue: 1_000_000,
  /** How many ids of contacts one statement that counts people looks at. */
  contactsAtOnce: 40_000,
  /** How many rules one statement counts. */
  rulesAtOnce: 4,
  /** Unsure readers named on a page. */
  unsureShown: 50,
  /** How many rows long work looks at first and at most, and how long one piece is meant to take and may take, ms. */
  pieceRows: { first: 50, most: 4_000 },
  pieceMs: 90,
  pieceMostMs: 240,
  /** How long others have the database between two pieces, as a part of a piece's time. */
  pieceRest: 0.3,
  /** How long rows and jobs belong to a sender without a sign of life, ms. */
  leaseMs: 60_000,
  /** What is on the line when the process is told to end has so long to finish, ms. */
  stopMs: 7_000,
  /** Waits of a job that went wrong on our side, ms. */
  jobWaits: [2_000, 10_000, 30_000, 120_000, 300_000],
} as const;
