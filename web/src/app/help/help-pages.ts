/** What the help says about a step of the job or a place of the application. */
export interface HelpPage {
  readonly id: HelpTopic;
  readonly title: string;
  /** Name of a picture of the demo, of those in docs/screenshots. */
  readonly picture?: string;
  /** What the picture shows, for who does not see it. */
  readonly shows?: string;
  readonly paragraphs: readonly string[];
  /** Keys and what they do. */
  readonly keys?: readonly (readonly [string, string])[];
}

export type HelpTopic =
  'Jobs' | 'Brief' | 'Layout' | 'Heights' | 'Check' | 'In place' | 'Run' | 'Proof' | 'Make' | 'Shop' | 'Keys' | 'Lengths';

export const HELP_PAGES: readonly HelpPage[] = [
  {
    id: 'Jobs',
    title: 'Jobs: what is due, and what waits on whom',
    picture: 'jobs',
    shows: 'The board with its four lanes of jobs, each with relief pictures of its signs',
    paragraphs: [
      'A job is one customer’s order: its signs, how many, by when. The lanes say whom it waits on; “proof out” waits on the customer, “approved” on the shop.',
      'New job asks for the customer and what is wanted. The first sign is asked for right after: choose a kind, write its words, give its size and material.',
      'The search finds numbers, customers, titles, and the words that stand on the signs themselves.',
      'What is removed lies in the bin for 30 days, and can be taken back from there.',
    ],
  },
  {
    id: 'Brief',
    title: 'Brief: what the job is for',
    paragraphs: [
      'The title of the sign and the material of its blank stand on every proof. Sizes can be shown in millimetres or in inches; what is stored does not change.',
      'Revisions shows every state of the sign that was saved, what was otherwise then, and takes one up again. What is taken up can be undone.',
      'Keep the sign as a kind, and every new sign can be begun from it.',
      'Drawings and pictures that the customer sent are kept here as they came.',
    ],
  },
  {
    id: 'Layout',
    title: 'Layout: words, sizes, places, artwork',
    picture: 'bench',
    shows: 'The bench at Layout: ladder, plan with dimensions, and the ticket in sentences',
    paragraphs: [
      'The ticket says what is made, in sentences; every value is edited where it stands. What is chosen unfolds, all else is one line. “more …” shows what goes without saying.',
      'Drag a part in the plan to move it; its corners and sides make it larger or smaller. Distances to the edges stand outside of the blank: type the one you want.',
      'A text can run in a frame, which narrows it until it fits, or along an arc, a line, or the edge of another part. “Letters and gaps” opens a gap by hand, or all of them for a tool.',
      'A sign need not be flat. Under Blank, “more …”, it is bent around a cylinder or a cone, all the way round with floor and lid, bent as a sheet, along a line such as the front of a desk, or laid on a dome; or it is a block, whose faces lie beside each other in the plan; words set “around the sides” go on from face to face, no letter on an edge. The plan stays the face laid flat at its true size: a place round is typed in degrees, what goes over the seam comes in at the other end, and “stretch” paints by how much a surface is longer or shorter than the plan. What is “set at a level” follows the surface, or is “flat, square to the surface at its place” (“more …” of its line): a plane pad on a post; what sits on it is as large there as it is drawn, and its top is level with the pad. Letters are laid on as they lie in the plan, or as they look from straight before them (“more …” of their line). A line need not be typed: “take its line from a drawing” reads the longest one of an SVG or DXF file, seen from above, you being below it. The model and the section “as it is bent” show it in space.',
      'What a sign is for may be shown with it: under “object” in the model a GLB or STL file of the customer’s is read, kept with the job, and stood behind the sign. Click a face of it, with Shift more of it: the nearest plane, cylinder and cone are told, and how far each is off. “Lay the sign on it” bends the sign so, its middle where you clicked, its back on the object or its face in the object’s.',
      'A block is a box, also with chamfered front edges, a prism or a wedge. Choose a face beside the plan or double-click it on the model: what is added lies on it, distances are those to its edges, and “on the face …” in a part’s sentence brings it to another one. A part can be repeated on every side. What is carved from two faces may meet; Make plans the cuts of one face at a time and says how the block lies.',
      'Words that go all the way round a post, a cup, or the sides of a block can be made to fill that: “once around”. Words along a line fill it where they are justified.',
      'Braille follows the words of a text: it is translated anew with them, read back beside its cells, and can be corrected by hand. “more …” has its cells and whether capitals are indicated.',
      'Artwork from SVG and DXF comes as outlines, a part for each colour; pictures (PNG, JPEG) are traced or laid under the plan.',
      '“Find a value” goes to any value of the sign by its name: type “tracking” and press Enter.',
    ],
  },
  {
    id: 'Heights',
    title: 'Heights: what is raised, carved, or cut through',
    picture: 'heights',
    shows: 'A carved panel lit from the upper left, with its ladder and section',
    paragraphs: [
      'The ladder is the blank seen from its edge: the face is 0, raised parts hang above it, carved ones below. Drag a rung, or type its figure.',
      'A part can have several tiers, each with its own area: a letter raised by 6 mm with a rim of 2 mm is two. The sides stand upright, slope, or run up to a ridge.',
      'A part sits on the face, or on the floor or the top of another part: then it moves up and down with that one.',
      'The section shows the relief along the cut line. Drag the line or its ends in the plan; point at the section to read a height.',
      'Options are several heights or finishes of one sign, which the customer chooses from.',
    ],
  },
  {
    id: 'Check',
    title: 'Check: what cannot be made, and what to look at',
    picture: 'check',
    shows: 'What was measured of a sign, with its places on the plan',
    paragraphs: [
      'Notes come by weight: what cannot be made, what to look at, and what is good to know. A click goes to the part in the plan.',
      'Where there is a remedy it stands behind the note; it is done with a click, and undone like everything else.',
      'A click on a finding tries what would mend it: what is offered then makes nothing else worse. A check can be switched off for a sign with a reason, which stands on the shop’s copy of the proof.',
      'Choose a standard, and the table below has its clauses, each measured on the relief; a click marks its places. “Make it meet the standard” changes what has to be changed, says what, and is undone in one step. The proof shows the table to the customer.',
      '“Measured” has gaps that the smallest end mill does not pass, strokes and walls too thin for the material, strokes too tall for their width, steps too small to be seen, inner corners that a mill rounds, and letters too low or too thin for the distance that you type. Limits are those of the material and the tools under Shop; hold the pointer over one to read where its limit is from. A click marks its places on the plan, on the section, on the model and its heights on the ladder.',
      'Say that a sign stands outdoors, and how far it leans from level, and the water that would stand in it is measured: how deep, how much, and where a hole would let it out.',
      'Notes that are left open have to be confirmed before a proof goes out, and the name of who did that is kept.',
    ],
  },
  {
    id: 'In place',
    title: 'In place: the signs where they will hang',
    picture: 'places',
    shows: 'A room sign beside a door in a photograph, with the door marked',
    paragraphs: [
      'Take the customer’s photograph of the wall and drag the four marks onto the corners of something whose size is known: a door, a window, a panel. Then type its width and height. On a wall that was taken straight from the front two lengths will do.',
      'Hang signs of the job, drag them where they belong or type how far they are from the middle of what is marked. They stand there at their true size, with what stands out of them, lit from the side that you choose.',
      'Without a photograph they are shown before plain colours, or before nothing, as a picture to be laid over others.',
      '“From where it is read” shows a sign as large as it will be seen, on a screen at arm’s length, and says whether its smallest letters can be read.',
      'Places go with the next proof, unless you take the tick off: the customer sees them, and so does the sheet.',
    ],
    keys: [
      ['Tab, arrows', 'choose a mark or a sign, and move it; ten times as far with Shift'],
      ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
    ],
  },
  {
    id: 'Run',
    title: 'Run: a list makes hundreds of plates',
    picture: 'run',
    shows: 'Tree labels of a list, each with its number and how it fits',
    paragraphs: [
      'Choose the sign that all plates are like, and take in a list: a workbook or a CSV file with the names of columns in its first row, or rows pasted from a spreadsheet. The file is kept with the job as it came.',
      'Put columns into the words of the sign, beside the list. What is done where a row has no value, how its letters are written, and whether every value may be there once, is said below. A number that counts goes on from row to row.',
      'A column can choose as well: an option, a finish, a length within limits, whether a part is made, or which of several. What chooses nothing keeps its row from being made, and says so.',
      'Every row is laid out by itself, as the sign with the same words would be: it fits, or its frame narrows it, or it does not fit. Cells are typed over where they stand; Enter goes down the column.',
      'A newer list takes the place of the one before: rows are known again by a column whose values are all different, and what is new, changed or gone is told.',
      'Plates go to the customer with the proof of their sign. What the customer would have otherwise stands over the list: take it in, or leave the word. What was changed since the proof is told there, too.',
      'A plate that is opened can be corrected alone: it keeps that when the sign or the list changes, and it is told among its notes.',
      'Sheets shows how many plates go on a sheet, with a map; plates that do not fit are left out until they are mended. Drag one to where it is to stay, and the others give way; offcuts are used first, and places of clamps stay free. Mark rows to make those alone, such as one plate again. Files has programs by sheet as well, from this page or by the workers: each tool goes through all plates before the next, and frees them at last.',
      'Where the sign has options, “Made as” says which one the plates are made as, unless a column chooses it. When the customer has approved another, the run says so.',
      'The shop’s workers make files of long lists, also when the page is closed: pause them, let them go on, or end them. The job’s card shows how far they are.',
    ],
    keys: [
      ['Enter, arrows', 'the next row of the same column'],
      ['Ctrl Z, Ctrl Shift Z', 'undo, redo'],
    ],
  },
  {
    id: 'Proof',
    title: 'Proof: what the customer sees and answers',
    picture: 'proofs',
    shows: 'The proofs of a job, with what the customer said about them',
    paragraphs: [
      'A proof freezes the signs as they are. The customer gets an address, looks at pictures, sizes and every word, sets remarks on the picture, and approves or asks for changes. Of a list every plate is shown: the customer types words as they should be, and you take them in under Run.',
      'What was changed in a sign since its proof is listed, line by line. Only what was approved goes to the shop without a word; anything else asks for a reason.',
      'The sheet can be had as a PDF on any paper, with the blocks that the shop’s layout has.',
    ],
  },
  {
    id: 'Make',
    title: 'Make: from the relief to a proven program',
    picture: 'make',
    shows: 'The cuts of a carved panel, with what their programs leave',
    paragraphs: [
      'Nothing is picked: the cuts are read off the relief. Look over machine, stock and tools on the left, and press “Plan the cuts”: what stands too high is cleared by large tools and then smaller ones, slopes are finished, windows and the sign itself cut out.',
      'The programs are read back and cut in a dry run. Play it as a film, choose a cut to see its ways, and look at what is left: red stands too high. What cannot be made says which tool would clear it.',
      'Small rings on the plan are the tabs that hold the sign until the last: drag one, or move it by the arrow keys, Delete takes it away; then lay the plan with them. A drill that is ticked makes the holes that it is as wide as, where it may cut so far into the bed that its point comes out below. Under “How it is cut” the first tool may go by straight lines, such as along a grain.',
      'Programs are let out where the dry run proves them and the customer approved the proof; otherwise by a designer’s name and reason. The setup sheet has stock, zero, tools and files.',
      '“At the machine” sends them to the practice machine, a stand-in on this computer: run, hold, confirm a tool, go on from a line after a power cut.',
      '“Outlines and solids” has files for other programs: solids, outlines, laser and knife, masks for paint, inlays (pockets and the plugs that fill them), patterns for casting (with draft added where you ask), prints (looked over for what hangs or is too thin, and split with pegs where the bed asks), templates. They say of which revision they are.',
    ],
  },
  {
    id: 'Shop',
    title: 'Shop: materials, tools, machines, fonts, blanks, finishes',
    picture: 'library',
    shows: 'The tools of the shop, each with its form and its sizes',
    paragraphs: [
      'Materials, tools, machines and rates are what plans of cuts are made with. Search, copy, change; lengths are typed in any unit. How a machine wants its programs written is tried with a sample while it is typed. Lists are saved as a file and taken over from one.',
      'Fonts in TTF, OTF, WOFF or WOFF2 are read, tried and kept; a font that is at hand already is not added twice. Type your own words as a sample, and see which letters a font lacks.',
      'Usual blanks are kept from the bench, finishes are named here with their colour. Taking one out leaves signs as they are.',
      'Name, address, terms and logo of the shop stand on every sheet.',
    ],
  },
  {
    id: 'Keys',
    title: 'Keys of the bench',
    paragraphs: ['They work wherever the focus is, but in a field and in a dialog.'],
    keys: [
      ['n · d · Delete', 'a new line of text; a copy of what is chosen; take it out'],
      ['Shift', 'with a click, or Enter on the ladder: choose several; drag with it: all in a box'],
      ['arrows', 'move what is chosen by 1 mm or 1/16 in, ten times as far with Shift'],
      ['t · T · x', 'a quarter turn to the left, to the right; mirror'],
      ['c · C', 'bring to the middle of the blank, across; up, words by their capitals'],
      ['g · G · l · h', 'group, ungroup; lock; hide'],
      ['e · r', 'the points of an outline; measure'],
      ['Alt', 'while dragging: held to nothing; held down: every dimension'],
      ['p · m · b · 0 · o', 'plan, model, or both; the whole blank; the other side'],
      ['/ · Ctrl K', 'any value of the sign by its name: “tracking”, Enter'],
      ['Alt ↑ · Alt ↓', 'on the ladder: later or earlier in the build order'],
      ['Ctrl A · C · X · V', 'choose all; copy, cut, and put in place, also in another sign'],
      ['Ctrl Z · Ctrl Shift Z', 'undo, redo'],
      ['Esc', 'let go of what is chosen, or leave a field as it was'],
      ['letters', 'in “Letters and gaps”, with Tab on a gap: left and right arrows close and open it'],
      ['Tab · Enter', 'go from value to value in the ticket, take a typed value'],
      ['?', 'this help'],
    ],
  },
  {
    id: 'Lengths',
    title: 'Lengths: in any unit',
    paragraphs: [
      'Every length takes any unit, whatever the sign is shown in: 19mm, 3/4 in, 1 ft 2 1/2 in, 6 mm + 1/8 in. An inch is 25.4 mm exactly.',
      'In a length, the up and down keys change it step by step, ten steps with Shift.',
      'A field takes what was typed in it when it is left or at Enter; Esc leaves it as it was.',
    ],
  },
];

/** The pages that hold every word of a question, in their order; all where nothing is asked. */
export function helpFor(question: string): readonly HelpPage[] {
  const words = question.toLowerCase().split(/\s+/u).filter(Boolean);
  return HELP_PAGES.filter(({ title, paragraphs, keys = [] }) => {
    const text = [title, ...paragraphs, ...keys.flat()].join(' ').toLowerCase();
    return words.every((word) => text.includes(word));
  });
}
