/** What the command line can be asked for. */
export const USAGE = `Usage:
  ./relief inspect SIGN.json…                what the sign is, as JSON; of several, a list
  ./relief export SIGN.json [options]        writes any of its files
    --stl FILE    the solid                  --svg FILE   the outlines by level
    --3mf FILE    the solid with finishes    --dxf FILE   the outlines by level
    --glb FILE    the model with finishes    --pdf FILE   the proof
    --png FILE    a picture from the front
    --option ID   of one of the sign's options
    --side back   outlines, picture and solid as seen from behind
    --date DATE   the date on the proof, as 2026-11-25 (today where none is given)
  ./relief dry-run SIGN.json --shop SHOP.json PROGRAM…   what programs make of the sign, as JSON
    --machine ID  whose speeds the time is of (the first of the shop's where none is given)
    --zero X,Y,Z  where the programs' zero lies in the sign, in mm
    --cell MM     how far apart places are looked at (0.1)
    --side back   of the back
    --face ID     of a block, which face
    --choice FILE stock, clamps and pins, as the cuts were asked for with
  ./relief cuts SIGN.json --shop SHOP.json --out DIR      the cuts of a sign as programs, proven by a dry run, as JSON
    --machine ID  on which, the first of the shop's where none is given
    --material ID of the shop's, where the sign's words name none
    --tools IDS   that may be used, by id or number: end-6,end-3; those that suit the sign where none are named
    --date DATE   the date on the setup sheet
    --choice FILE how, as docs/programs.md says
    --cell MM, --side back, --face ID  as above
  ./relief check SIGN.json                   what is measured of a sign, as JSON; exits 1 where something is not as it should be
    --shop SHOP.json  whose tools and material it is measured against
    --distance M      from which it is read
    --standard ID     that it is to meet, clause by clause: ada-703
    --side back       of the back
  ./relief run SIGN.json --list LIST.csv --out DIR   a plate for every row of a list, with a report, as JSON
    --files KINDS     of svg, dxf, stl (svg,stl)
    --rows 3,7-9      those alone
    --column SLOT=COLUMN   where their names differ; as often as needed
    --option NAME     of the sign, that all plates are made as
    --workers N       threads that make rows and sheets (1)
    --sheet 1220x610  lays plates on sheets of so many mm, with a map of each, and all maps as a PDF
    --contact         a contact sheet (PDF): a picture of every plate with its number
    --margin MM, --spacing MM   to the sheet's edge (10), between plates (4)
    --turns DEGREES   that plates may be turned by (0,90,180,270)
    --effort N        how often plates that are no rectangles are looked at to lay them closer (30000)
    --order kept      as in the list; free where nothing is said
    --offcuts 600x300,400x200   used first, before whole sheets
    --shop SHOP.json  writes programs of every sheet, tool by tool, and proves them; --machine ID, --material ID, --tools IDS,
                      --choice FILE, --cell MM (0.2) as for cuts
SIGN.json may be - for standard input. Documents: docs/sign-format.md, docs/shop-format.md; programs: docs/programs.md; runs: docs/runs.md.`;
