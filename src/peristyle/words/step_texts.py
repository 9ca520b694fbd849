"""The sentences of the steps: how each is done.

Read by `words.steps` over a step's own settings and numbers.
"""

from typing import Final

SAYS: Final[dict[str, str]] = {
    "plane.all": "The whole board to one setting, so that every side is the same.",
    "resaw.triangle": "Draw a triangle over both long edges first, so that you can find which faces belong together.",
    "resaw.band_saw": "Flatten one face and one edge. Stand the board on that edge, flat face against a tall fence. "
    "Saw slowly, and finish with a push stick.",
    "resaw.table_saw": "Flatten one face and one edge. Stand the board on that edge, flat face against a tall fence, "
    "with the blade a little higher than the board. Hold it with a featherboard, and finish with a push stick.",
    "resaw.two": "Flatten one face and both edges. Raise the blade {blade_mm}, a little over half the board. Stand the "
    "board on one edge, flat face against a tall fence, and saw. Turn it end for end, the same face on the fence, and "
    "saw from the other edge: the two cuts meet in the middle.",
    "resaw.hand_saw": "Flatten one face and one edge. Gauge a line {leaf_mm} from the flat face all round. Saw from a "
    "corner, and turn the board over every few strokes so that both lines are followed.",
    "resaw.kept": "One leaf is for the sides. Keep the other.",
    "resaw.book": "Open the leaves like a book, the upper one turned end for end. The sawn faces are the show faces: "
    "surface them only until they are flat, and take the rest off the other faces.",
    "rip.rough": "Straightening the edge takes {edge_mm}.",
    "rip.across": "The strip lies {across_mm} up from the straight edge: rip that much off first.",
    "trim.book": "With the book open, sawn faces up, the upper leaf turned end for end: its start end is the one that "
    "was the far one. A long piece comes off whole and is kept.",
    "strips": "One straight edge first, and off it one strip after the other along the whole board, square, show face "
    "up; {long_mm} of each is needed. Letter each with its sides before the next is ripped: across the board they lie "
    "as they go round the box.",
    "strips.all": "One straight edge first, and off it {strips|strip|strips} all alike along the whole board, square, "
    "show face up; {long_mm} of each is needed. The first {strips|letter lies|letters lie} side by side at the "
    "trimmed end, the others behind them in the same order.",
    "strips.creep": "{creep_mm} on either edge is still to come off with the bevels.",
    "strips.low": "First take {low_mm} off the straight edge.",
    "strip_bevel.start": "Show face up, the blade leaning away from the fence, the other long edge on it; the cut "
    "dies at the show-face arris and takes nothing of the width.",
    "strip_bevel.creep": "Show face up, the blade leaning away from the fence, the other long edge on it; the cut "
    "takes {creep_mm} off the show face.",
    "strip_bevel.end": "Show face up, the blade leaning away from the fence, the bevelled edge against it: its sharp "
    "arris touches well above the table, so the fence must be straight and as high as the strip. The width is that of "
    "the show face.",
    "heights": "One end square first; then all to one stop, in their order along the strips. The stop is clear of the "
    "bevelled edges.",
    "bevel.flip": "{face} up, the blade leaning away from the piece. Bevel the board's end first. Then for every "
    "piece turn the board over, its long edges changed about, its bevelled end against the stop of that piece's "
    "length, and bevel: one cut is the end of this piece and the start of the next. Letter the pieces as they come.",
    "bevel.flip_swung": "The gauge and the blade stay as they are set all through: turning the board over changes the "
    "hand.",
    "plane.light": "{off_mm} comes off in {lights|light pass|light passes} of {light_mm}, both faces in turn.",
    "thin": "All that comes off comes off the inside face, so that the show faces stay in one plane: {off_mm}. By a "
    "planer, short pieces lie end to end on a carrier board between two strips as thick; by hand, to a gauged line.",
    "thin.light": "In {lights|light pass|light passes} of {light_mm}, the inside face alone.",
    "rip.strip": "One straight edge first. The sides lean unlike each other: side {side} needs this width, and each "
    "is ripped to its own height once it is cut to length.",
    "rip.stock": "From stock {thick_mm} thick, {long_mm} of it with the kerfs, its end cut square once it is ripped.",
    "rip.straight": "One straight edge first; then both edges parallel.",
    "rip.parallel": "Both edges parallel.",
    "rip.band_saw": "Saw just outside the line and plane to the width.",
    "rip.on_edge": "A lean of {lean_deg} is past the saw's stop: stand the board on its edge against a tall fence "
    "with the blade at {tilt_deg}, or plane the edges to a line.",
    "rip.leaning": "Both lean the same way, so that the box sits flat, and one setting serves both, the blade leaning "
    "away from the fence. First the top edge: {down} face down, the straight bottom edge on the fence. Then the bottom "
    "edge: {other} face down, the new top edge on the fence, its arris on the table touching. The width is along the "
    "face.",
    "rip.leaning.table": "Both lean the same way, so that the box sits flat, and one setting serves both, the table "
    "leaning down toward the fence. First the top edge: {down} face down, the straight bottom edge on the fence. Then "
    "the bottom edge: {other} face down, the new top edge on the fence, its arris on the table touching. The width is "
    "along the face.",
    "mark.ends": "Strike out what is bad at the ends: the strip begins {begins_mm} from the start. Choose the show "
    "face, and put the closing corner where it is least seen.",
    "mark.ends.book": "Strike out what is bad at the ends of both leaves: the sawn faces are the show faces. Put the "
    "closing corner where it is least seen.",
    "mark.letters": "Letter the sides along it in this order: {sides}; an arrow to the top edge on each, and a "
    "triangle over the joints to come, so that every piece knows its neighbours.",
    "mark.back": "The board's back is up: its show face is the other one than pictured.",
    "mark.turned": "The board lies turned end for end, its other long edge toward you.",
    "mark.book": "Letter the sides in this order: {sides}, from the trimmed end of the lower leaf on, and then back "
    "along the upper one; an arrow to the top edge on each, and a triangle over the joints to come.",
    "mark.across": "Letter the sides across the board in this order from its straight edge: {sides}, tops toward the "
    "trimmed end; an arrow to the top on each, and a triangle over the joints to come, so that every piece knows its "
    "neighbours.",
    "mark.any": "Letter the sides along it in this order: {sides}, alike ones together; an arrow to the top edge on "
    "each.",
    "mark.flip": "Letter the sides along it in this order: {sides}. Every other one shows the board's back: turn the "
    "board over about its length for its letter, and let every arrow point to its own top edge.",
    "mark.miters": "Across each end a line that leans as its cut will: the two ends of a side never run the same way. "
    "One cut the wrong way gives a piece with parallel ends.",
    "mark.unlike": "Across each end a line that leans as its cut will, on the face and on the edge.",
    "mark.lean": "On the edge the two ends of {ends_lean} run the same way: one face is the longer at the start, the "
    "other at the end.",
    "mark.swing": "On the face the two ends of {ends_swing} run the same way.",
    "mark.others": "All others run against each other: one cut the wrong way spoils its piece.",
    "rabbet.shoulder": "Inside face down, {edge} edge on the fence.",
    "rabbet.strip": "In the long strip, so that it lines up at every corner.",
    "rabbet.sides": "Every side, before the fence is moved.",
    "rabbet.cheek": "On the {edge} edge, the show face flat against a tall fence: the waste comes free on the "
    "outside, away from the fence.",
    "rabbet.at_once": "Inside face down, {edge} edge against a sacrificial fence that what cuts is let into, so that "
    "{shoulder_mm} of it stands out; in two passes of depth where the wood is hard.",
    "rabbet.passes": "Inside face down, {edge} edge on the fence, a sacrificial one for the pass at the very edge.",
    "panel.rabbet": "Cut a little large and fitted to the rabbet as the glued ring has it, with its play.",
    "panel_set": "A bead of glue in the rabbet, a pinch of salt or a pin in each corner against slipping, and weight "
    "or clamps overnight.",
    "panel_set.floats": "Solid wood: put glue in the rabbet along one long-grain edge only, and leave the other edges "
    "free to move. Weight or clamps overnight.",
    "true_edge": "On a flat sheet of abrasive, until no light shows under a straight edge: a frame that rocks is "
    "marked where it is high, with chalk on the sheet, and planed there first.",
    "true_edge.rides": "Later cuts are measured from this edge.",
    "panel.oversize": "Cut {over_mm} larger all round than the outside of the box as it came out: it is flushed once "
    "it is on.",
    "panel.overhang": "It overhangs the sides by {overhang_mm} all round. Measure the box as it came out and add that.",
    "panel_set.pins": "Two short pins clipped off in the edge, or a pinch of salt in the glue, keep it from slipping; "
    "weight or clamps all round.",
    "panel_set.sheet": "Sheet stock may be glued all round.",
    "panel_set.across": "Solid wood: glue it along one long-grain edge, and only in the middle of the two ends, so "
    "that it can move.",
    "panel_flush": "Long grain planed, end grain sanded, from the edge inward.",
    "board": "Edges shot straight in pairs, so that what one is off the other makes good; the rings up and down in "
    "turn.",
    "leaf_glue.strips": "Edge to edge, flat, with paper under the glue lines; {spare_mm} larger each way than the "
    "panel.",
    "strip_glue": "Overwide by {over_mm} outside and in, so that it need not be placed to a hair; miters glued too. "
    "Paper between strip and lid: the lid is its clamp.",
    "bevel.sliver": "So thin a strip is not mitered on a machine: lay it flat and cut it with a knife against a block, "
    "or shave its ends on a shooting block. Veneer, plastic or metal strip of that thickness will do as well.",
    "strip_flush": "Sawn near and sanded flush, outside and in; a trimming bit would break its corners.",
    "lower.sliding": "Inside face up, the bottom edge on the fence: down to the lower wall of the groove, so that the "
    "lid slides out over it.",
    "lower.eaves": "Inside face up, the bottom edge on the fence: the eaves slope as the roof does, the inside the "
    "higher.",
    "gable": "Its middle marked on the top edge, the bottom edge on the gauge: from the mark down to {eaves_mm} at "
    "the ends, one hand and then the other. The waste is kept: it is the caul for clamping the roof.",
    "roof_leaf": "One long edge beveled {pitch_deg}, the other square: the underside is {under_mm} from edge to edge. "
    "Their bevels meet at the ridge.",
    "roof_leaf.band": "Band its eaves edge and both ends before it goes on: {band_mm} of banding in all, a little "
    "wider than {thick_mm}.",
    "roof_leaf.length": "Its grain runs along the ridge.",
    "roof_leaf.width": "Its grain runs square to the ridge.",
    "roof_fix": "The leaf over side {fixed} is glued down, {overhang_mm} out over the eaves at its upper arris and "
    "{ends_mm} over the gables; the one over side {opens} is fitted to it dry: it lifts off, or is hinged at the "
    "ridge.",
    "ledge": "The corners are left free, so that no end need be fitted: {lengths}.",
    "ledge.leans": "Its back leans {lean_deg}, as the wall does, the wider face {wide}.",
    "ledge_glue": "Along the walls, down on the bottom: glue on the wall side alone, so that the bottom stays free. "
    "The tops level, {high_mm} up.",
    "panel.false": "Fitted to the inside as it came out, {play_mm} of play each side; it lies on its strips and is "
    "not glued.",
    "panel.lid_part": "Fitted to the box as it came out. The lid's parts meet {fixed_mm} from the inside face of side "
    "{side}, {gap_mm} between them.",
    "panel.stands_out": "It stands out {overhang_mm} over the outside of the box.",
    "panel.stands_out.two": "It overhangs {over} by {overhang_mm}. Leave it a shaving long over the other sides: it is "
    "planed flush there with the lid on.",
    "panel.flush_on": "Cut it {over_mm} larger all round than the outside of the box: it is planed flush later, with "
    "the lid on.",
    "panel.flush_on.part": "Leave its outer edges a shaving proud of the sides: they are planed flush later, with the "
    "lid on.",
    "panel_flush.lid": "Put the lid on and plane its edges flush with the sides, from the corners inward. Mark the "
    "front, so that it always goes on the same way.",
    "panel_flush.lid.part": "Put the lid on and plane it flush with the sides it does not overhang, from the corners "
    "inward. Mark the front, so that it always goes on the same way.",
    "panel.drop_in": "Fitted to the rabbet as it came out, {play_mm} of play each side, the corners eased.",
    "panel.flat": "Fitted to the box as it came out: measured along its sides and from corner to corner, for a box "
    "out of true takes a lid that is as much out.",
    "panel.lift_off": "Fitted to the box as it came out.",
    "panel.sliding": "The edge over side {side} is flush with the outside; the others slide in their grooves with "
    "{play_mm} of play. Wax the grooves, no finish in them.",
    "panel.slate": "Score and saw slate wet, or have it cut; {play_mm} of play each side on a lip {ledge_mm} wide.",
    "panel.glass": "Have it cut, edges ground; {play_mm} of play each side on a lip {ledge_mm} wide. Never force "
    "glass.",
    "panel.tile": "Take the tile as it is, or have it cut wet; {play_mm} of play each side on a lip {ledge_mm} wide.",
    "panel.lattice": "Finished before it goes in; {play_mm} of play each side on a lip {ledge_mm} wide.",
    "panel.plug": "Cut it a little full, then plane it until it just pushes into the mouth with {fit_mm} of clearance "
    "each side. Ease its lower edges.",
    "panel.plug.press": "Cut it a little full, then plane it until it just pushes in by hand: a press fit, with no "
    "clearance. Ease its lower edges.",
    "plug_glue": "Push the plug into the mouth of the box, flush with the rim. Spread glue on it, sparingly and clear "
    "of its edges, in the middle only if it is solid wood. Set the lid on it where it belongs, with weight. Lift the "
    "lid off before the glue grabs, so that nothing sticks to the box.",
    "lid_hole.finger": "In the middle a hole of {hole_mm}, a backing board under it; both arrises eased.",
    "lid_hole.pull": "In the middle a hole of {hole_mm} for the pull's screw, with the bit the material asks for, a "
    "washer on either side; the screw is usually too long for so thin a lid, and washers take it up.",
    "lid_notch": "With a gouge or a core-box bit: {wide_mm} wide, {deep_mm} deep, {in_mm} from the end.",
    "try_hinge": "A leaf let into a scrap as thick as the side, {thick_mm} deep: the two leaves lie level with the "
    "wood, and the joint closes on no light.",
    "hinge_mortise": "Lid and body clamped together, rim to rim beside each other, the lines struck across both with "
    "a knife, never a pencil: {begin_end}. The leaf reaches to {within_mm} from the outside, the axis lies {out_mm} "
    "out. Half the waste first, {half_mm} deep, then pare to the line.",
    "hinge_mortise.leans": "The side leans, and the lid’s rim does not stand over the body’s: in the lid {lid_mm} "
    "from its own face, so that both leaves reach as far from the axis.",
    "hinge_mortise.board": "The lines struck across the rim with a knife, never a pencil: {begin_end}; the lid laid "
    "in its place and marked from them. In the rim the leaf reaches to {within_mm} from the outside, the axis lies "
    "{out_mm} out; in the underside of the lid, which stands {over_mm} out, {lid_mm} from its edge. Half the waste "
    "first, {half_mm} deep, then pare to the line.",
    "hinge_mortise.channel": "In the lid a channel for the barrel besides, {deep_mm} deep, from its edge on, "
    "{from_mm} long.",
    "hinge_mortise.barrel": "A second depth where the barrel comes in from outside, half its {barrel_mm}, no further "
    "than it needs.",
    "try_hinge.seam": "A leaf let into a scrap's edge, {sunk_mm} deep: two such scraps and both leaves close on a gap "
    "of {gap_mm}.",
    "hinge_mortise.seam": "The lines struck across both edges with a knife, the parts lying together as they will: "
    "{begin_end}. The leaves go {within_mm} down from the upper face, the axis lies {out_mm} over it.",
    "hinge_mortise.seam_sunk": "{sunk_mm} deep in either edge, so that the two leaves lie in a gap of {gap_mm}; half "
    "the waste first, {half_mm}, then pare to the line.",
    "hinge_mortise.seam_flat": "No mortise: the gap of {gap_mm} holds both leaves, screwed on flat.",
    "hinge_mortise.legs": "Then the legs: from the leaf on round each corner to {leg_mm} from the face of side "
    "{side}, {leg_wide_mm} wide, their outside {leg_in_mm} from the face beside; as deep as the leaf.",
    "hinge_mortise.legs_leg": "In the lid the legs end {leg_over_mm} from its own edge.",
    "hinge_mortise.stay": "Last a third depth: along the middle of each leg a slot {stay_wide_mm} wide and {stay_mm} "
    "deep for the stay, in both rims.",
    "try_hinge.barrel": "A hole {bore_mm} deep in two scraps: the barrel goes in to its middle and no further, and "
    "the scraps close on no light.",
    "hinge_bore": "Their middles pricked through from one rim to the other, {in_mm} from the face; a bit of "
    "{barrel_mm}, {bore_mm} deep, the box held plumb under the drill press.",
    "hinge_bore.leans": "The side leans, and the lid’s rim does not stand over the body’s: in the lid the middles lie "
    "{in_lid_mm} from its own face, plumb too.",
    "hinge_bevel": "The lid turns about the middle of the joint, and what lies behind that must go: two gauged lines, "
    "{in_mm} from the face on the rim, to the middle of the bores, and {down_mm} from it on the face, planed to both, "
    "on body and lid. So it opens square and stops there.",
    "hinge_bevel.leans": "On the lid the lines lie {in_lid_mm} from its face on the rim and {down_lid_mm} from it on "
    "the face.",
    "hinge_hang.barrel": "The barrels pushed into the body dry, the lid pressed onto them; see that it shuts without "
    "springing and stops where both bevels meet.",
    "hinge_off.barrel": "Draw the barrels out and number them: they go back after the finish.",
    "hinge_again.barrel": "A little epoxy in each bore, none on the joint; the lid shut on a slip of paper until it "
    "has set.",
    "hinge_mortise.router": "On the router table the same lines are start and stop: pencil the bit’s two edges on the "
    "fence, and begin with its left edge on the first, stop with its right on the second; square the corners by hand.",
    "hinge_hang": "Screw holes punched in their middles, a little toward the outside; bored {screw_mm} less a turn "
    "deep. A steel screw cuts the thread, the brass one follows with wax: {screws} of them. One to a leaf first; see "
    "that the lid shuts without springing, then the others.",
    "hinge_off": "Number the hinges and lay their screws by: they go back into the same holes after the finish.",
    "hinge_again": "Each in its own place, screws waxed, their slots in line.",
    "magnet_bore": "{pairs} in each rim, their middles pricked through from one to the other with a pin: {deep_mm} "
    "deep, so that they lie {under_mm} under the rim.",
    "magnet_bore.board": "In the lid’s underside the middles lie {in_mm} from its edge.",
    "magnet_glue": "{each} of them. Mark the poles on a stack before the first goes in: each pair must draw, not "
    "push. A drop of epoxy, wiped level; let one rim set before the other.",
    "lining": "With a sharp knife along a rule, their cloth's {cloth_mm} taken off on every edge: {leaves}.",
    "lining.template": "The floor and what lies under the lid have {sides:0} sides, the sizes are over all: print "
    "their templates at full size.",
    "lining.cloth": "To the sizes of the faces it is glued to: {leaves}.",
    "lining_cover": "The cloth {turn_mm} larger all round, the nap the same way in all, turned over and glued behind: "
    "{cloths}.",
    "lining_set": "The floor first, then the walls' leaves, each pressed in between its neighbours, and last what "
    "lies under the lid; glue on their backs only, a few lines of it.",
    "lining_set.openings": "Where a leaf covers an opening, that is cut through it with the knife from outside.",
    "block.together": "They fill their place together: put up dry on the bench, they are their own gauge for the box.",
    "moulding": "Along the show face, in {passes} or more, a piece of the same section kept for scrap. Its section "
    "from the bottom edge up: {section}.",
    "moulding.back": "From here on it lies on its flat back for every cut.",
    "moulding.joint": "Of the joint face {share:0} % is left to be glued. Corners are sanded true afterwards: send "
    "what is off to the outside.",
    "moulding_base": "The edge of the base at the same setting as the moulding's foot, beside a piece of it: before "
    "its size is fixed.",
    "inlay.square": "{long_mm} × {wide_mm} × {thick_mm}, its edges square and crisp; centre lines struck on it both "
    "ways.",
    "inlay.round": "Diameter {long_mm} and {thick_mm} thick; centre lines struck on it both ways.",
    "inlay.thin": "So thin, it is easier to shape the end of a thicker block and saw the inlay off it last. Veneer "
    "comes off its backing once it is glued in and dry.",
    "fitting.loose": "Now, while the panel is loose: its edges lie in the grooves once the ring is glued.",
    "inlay_pocket.top": "Centre lines on the face both ways, {along_mm} and {up_mm} from its edges; the inlay laid on "
    "them and scored round with a knife. {deep_mm} deep: proved on scrap first.",
    "inlay_pocket.front": "Centre lines on the front both ways, {along_mm} from its start and {up_mm} from its bottom "
    "edge; the inlay laid on them and scored round with a knife. {deep_mm} deep: proved on scrap first.",
    "inlay_pocket.square": "Rout short of the line, pare to it, and square the corners by hand.",
    "inlay_pocket.round": "With a bit round a bushing and a ring, or short of the line by hand and pared to it.",
    "inlay_glue": "Its grain the way the face's runs, a caul over it. It stands {proud_mm} proud: plane the inlay "
    "first, along its own grain, until it is flush, then the whole face lightly.",
    "floor_fit": "Loose, on its strips: planed where it binds. What the compartment is for goes in under it later.",
    "fillet_glue": "Fitted dry first, the last one to what is left; a few dots of glue, held with spring clamps or "
    "tape.",
    "fillet_glue.rim": "Their tops {below_mm} under the rim: a spacer of that height keeps them level.",
    "fillet_glue.rim_level": "Their tops level with the rim.",
    "fillet_glue.lid_level": "Their tops against what lies in the rim or closes the box.",
    "fillet_glue.lid": "Their tops {below_mm} under what lies in the rim or closes the box: that itself, or a spacer, "
    "sets them.",
    "tray_glue": "Taped outside, rolled up and square, as the box was.",
    "panel.tray": "Flush with the walls outside; a hair larger, and flushed once it is on.",
    "tray_fit.finish": "Sand and finish it inside and out once the glue is dry.",
    "tray_fit": "Glue under the walls, the bottom laid on them with weight. Then it drops onto the {on} with {gap_mm} "
    "of room each side: plane where it binds.",
    "plate_recess.latch": "The lid shut on the body with tape, the lines struck with a knife across both: {wide_mm} "
    "wide, {body_mm} onto the body and {lid_mm} onto the lid; {in_mm} deep, half the waste first.",
    "plate_recess.bracket": "Each bracket held to its corner and scribed round with a knife: {long_mm} along both "
    "sides and {high_mm} high; {in_mm} deep, half the waste first.",
    "plate_bore.latch": "The latch shut and laid over the joint, its holes marked through it with an awl, the lid "
    "pressed down as it is marked; a stop on the bit at {screw_mm}. Then one screw to a half: see that it draws the "
    "lid down, and take it off again.",
    "plate_bore.bracket": "Each bracket held tight to its corner, its holes marked through it with an awl; a stop on "
    "the bit at {screw_mm}. Tried with one screw to a leaf, numbered, and taken off again.",
    "plate_bore.bent": "The corners are not square: bend each bracket to its own corner over a block first.",
    "plate_screw.latch": "A steel screw first to cut the threads, then the latch's own with wax: {screws} of them, "
    "their slots in line.",
    "plate_screw.bracket": "A steel screw first to cut the threads, then the brackets' own with wax: {screws} of "
    "them, each bracket on its own corner.",
    "handle_wedge": "From what the bevels cut off: {foot_mm} wide at its foot and {high_mm} high, {long_mm} long, cut "
    "by hand in a miter box; its sharp arris eased, for fingers.",
    "handle_glue.top": "In the middle of the lid, along it, the steep face toward side A; the glue's face sanded flat "
    "first.",
    "handle_glue.front": "In the middle of the front, the steep face down; the glue's face sanded flat first.",
    "handle_bore": "With {bore_mm} through the face, a backing board under it.",
    "handle_bore.stone": "A bit for stone or tile, slowly and wet, in a piece of the same first. Its dust is bad to "
    "breathe: keep it wet, and wear a mask.",
    "handle_bore.glass": "Have the holes of {bore_mm} bored where the glass is cut; soft washers on both faces.",
    "handle_screw": "Screws of {screw_mm} through {thick_mm}, with {bites_mm} of them in the handle; do not "
    "overtighten.",
    "handle_screw.washers": "They are {over_mm} too long: washers under the heads, {washers} of them, take it up.",
    "by_line": "Saw just outside the line and plane to it.",
    "by_line.width": "Mark the width with a marking gauge, saw just outside the line, and plane to it.",
    "by_line.length": "Mark each length with a knife. Saw just outside the line in a miter box, and shoot the ends to "
    "it.",
    "crosscut.leans": "Show face up and the {edge} edge toward you, the start's cut leans {start_hand} as it goes "
    "away from you, and the end's cut {end_hand}.",
    "crosscut.leans.start": "Show face up and the {edge} edge toward you, the start's cut leans {start_hand} as it "
    "goes away from you. The end is square.",
    "crosscut.leans.end": "Show face up and the {edge} edge toward you, the end's cut leans {end_hand} as it goes "
    "away from you. The start is square.",
    "crosscut.alike": "Cut alike ones one after the other, and hold each against the first: equal length matters more "
    "than exact length.",
    "by_line.end": "Knife a square line all round, saw just outside it, and shoot the end square.",
    "rip.planed": "Both edges lean the same way, {lean_deg} from square. Set a bevel gauge, and plane both edges to "
    "it. The width is along the face.",
    "groove.plow": "Set the plow plane's fence and depth stop. Work with the fence on the {edge} edge, inside face "
    "up. Start at the far end, and lengthen the strokes as the groove deepens.",
    "groove.knife": "The groove runs across the grain: knife both its lines first, or the plane tears the wood.",
    "groove.each": "Cut every side before you change the setting.",
    "rabbet.plow": "Set the rabbet plane's fence and depth stop. Knife or gauge both lines first. Work with the fence "
    "on the {edge} edge, inside face up.",
    "dado.hand": "Knife both lines across the inside face. Saw down to the gauged depth against a block, and pare out "
    "the waste.",
    "spline_groove.hand": "Mark the groove on every miter face from the inside edge. Saw both cheeks by hand, and "
    "pare the floor to depth.",
    "spline_groove.short": "Stop short of the edges where the lines say so.",
    "corner_block.hand": "Plane both long edges of the strip to a bevel gauge set at {lean_deg}: they lean inward and "
    "meet.",
    "key_stock.hand": "A strip {long_mm} long in all. Plane it until it slides into a slot with a "
    "little drag: glue swells it.",
    "strip_bevel.hand": "Set a bevel gauge, mark both ends, and plane the long edge to it. Leave the show face its "
    "full width.",
    "lower.hand": "Gauge the line from the bottom edge, at the lower wall of the groove, so that the lid slides out "
    "over it.",
    "lower.eaves.hand": "Mark the slope on both ends: the eaves slope as the roof does, the inside the higher.",
    "gable.hand": "Mark the middle on the top edge and {eaves_mm} up both ends, and join the marks. Keep the waste: "
    "it is the caul for clamping the roof.",
    "try_edge": "A scrap with an arris as square as the work's, at the same setting ({kind}): the profile runs out on "
    "its face with no step left beside it.",
    "edge.bottom_edge": "The box stands on its bottom edge, the bearing on the outside, along {sides}, in {passes}.",
    "edge.top_edge": "The box stands on its top edge, the bearing on the outside, along {sides}, in {passes}.",
    "edge.lid_edges.body": "The body stands on its rim, the bearing on the outside, along {sides}, in {passes}. The "
    "lid's rim at the same setting.",
    "edge.lid_edges.lid": "The lid stands on its rim, the bearing on the outside, along {sides}, in {passes}.",
    "edge.rim_edge": "With the rim down, the bearing on the inside, in {passes}. In the corners the bit leaves it "
    "round: pare them out to where the two profiles meet.",
    "edge.panel": "The board’s {face} down, the bearing on its edge, in {passes}: the two ends across the grain "
    "first, a scrap behind them, then along it.",
    "edge.hinges": "The side with the hinges stays square: there the two rims meet.",
    "edge.light": "The last pass is a light one.",
    "edge.parting": "Not along the line where the two parts meet.",
    "edge.leans": "The sides lean: hold the rim flat on the table, the bearing touches the face just over the "
    "profile, and the arris left is not square.",
    "lid_fix": "Glue on the sides under it, none on the parting line; the loose part dry beside it keeps the gap.",
    "panel_set.flush": "What stands over is flushed: long grain planed, end grain sanded.",
    "panel_set.proud": "It stands out {proud_mm} all round: look along its edges before the glue grabs.",
    "try_groove": "In a scrap as thick as the sides, at the same setting; a piece of the panel's own stock must slide "
    "in by hand, with nothing to rattle.",
    "try_groove.each": "So with every other setting of the grooves before its sides.",
    "try_bevel": "Cut two scraps at {bevel_deg} and hold them together. A square shows twice the error of one cut. "
    "Correct by half of what you see, and cut again.",
    "try_bevel.gauge": "Cut two scraps at {bevel_deg} and hold them together. A bevel gauge set to {corner_deg} shows "
    "twice the error of one cut. Correct by half of what you see, and cut again.",
    "try_bevel.each": "Two scraps at each bevel before its sides, held together and looked at against the corner; "
    "correct by half of what two alike show.",
    "try_bevel.edge": "A scrap as wide as the sides, on edge against the fence as they will be: the cut dies at its "
    "arris without a flat and without taking any length.",
    "try_bevel.end": "A scrap as wide as the sides, on end as they will be: the cut dies at its edge without a flat "
    "and without taking any length.",
    "finish_inside": "Tape over the miters and over all that will be glued, then sand the insides. Glue does not hold "
    "on finish, and sanding a miter's edge opens the joint.",
    "finish_inside.liner": "Sand the inside faces, which are the faces that show, and finish them. Keep finish off the "
    "miters and off the outside faces, where a few dots of glue will hold the liner.",
    "finish_inside.grooves": "Keep finish out of the grooves.",
    "finish_inside.rabbets": "Keep finish out of the rabbets that a panel is glued into.",
    "rough_sand": "All round, before slots are cut: what is sanded later leaves the keys proud. Leave the corners "
    "sharp.",
    "key_stock": "A strip {long_mm} long in all, planed until it slides into a slot with a little drag: glue swells "
    "it. Thin rips come off on the outside of the blade, never between blade and fence.",
    "key_stock.strip": "Cut the {count|triangle|triangles} from it by hand, head to foot: a cut every {per_mm}, "
    "{cut_deg} off square to one hand, then to the other. The long edge of each, {base_mm}, lies at the floor of the "
    "slot. The grain runs along that edge, across the joint. Each stands {trim_mm} proud.",
    "key_stock.veneer": "Triangles cut with a knife, head to foot, from strips of veneer {long_mm} long in all, the "
    "grain along their long edge, so that it runs across the joint: a cut every {per_mm}, {cut_deg} off square to one "
    "hand, then to the other. Iron or hammer a swollen saw cut "
    "closed no more than the veneer needs: it goes in with a little drag, dry.",
    "key_stock.dovetail": "A bar with both edges leaning {flare_deg} inward, {face_mm} at its narrow face, routed "
    "with the same bit from a wider piece and ripped off last; planed until it slides in with a little drag. Crosscut "
    "the {count|key|keys} from it, each {base_mm} long, a kerf between.",
    "key_glue.veneer": "Work glue through each slot with a scrap of veneer. Press the key in until it bottoms out and "
    "shows on both faces. It needs no clamp: leave it overnight.",
    "key_glue.dovetail": "Glue on the cheeks and the floor; slide each key in from one face until it stands proud of "
    "both, and leave it overnight.",
    "spline_groove": "The piece stands on its miter face, which lies flat on the table, held to a carrier cut at "
    "{bevel_deg} from square; its inside arris touches the fence, at both ends of every piece: {grooves} grooves. The "
    "face is all that guides it, so try it on the scraps of the bevel first.",
    "spline_groove.unlike": "The bevels are not alike: each has a carrier cut at its own, the fence stays where it "
    "is.",
    "spline_groove.once": "One pass each.",
    "spline_groove.passes": "{passes} each, the fence moved between.",
    "spline_groove.bit": "The bit stands square to the miter face; take the depth in small steps, against its turn.",
    "spline_groove.blade": "The blade stands square to the table, so that it is square to the miter face.",
    "spline_groove.low": "Stop at {low_mm} from the bottom, measured along the corner, to the bit's middle: a block "
    "clamped to the fence for each hand. The round end beyond it stays.",
    "spline_groove.high": "Stop at {high_mm} from the top, measured along the corner, to the bit's middle: a block "
    "clamped to the fence for each hand. The round end beyond it stays.",
    "spline_groove.both": "Stop at {low_mm} from the bottom and {high_mm} from the top, measured along the corner, to "
    "the bit's middle: blocks clamped to the fence for each hand. The round ends beyond stay.",
    "spline_stock": "The grain runs across the strip, from one piece into the other: crosscut them from the end of a "
    "board, or use plywood. {long_mm} of strip in all, planed until it slides in with a little drag; its width is "
    "{room_mm} under both grooves, which is room for glue.",
    "spline_stock.alike": "Each {each_mm} long.",
    "spline_stock.unlike": "The longest {each_mm} long, each as its own corner asks.",
    "spline_fit": "All {count} in, two thicknesses tried in a scrap first: one that must be driven splits the wall. "
    "The joints close, inside and out. In the glue-up, glue in both grooves and on the strip.",
    "spline_fit.level": "Where they run through they are trimmed level after the glue.",
    "corner_block.flat": "Rip a strip, its free face down on the table, the saw tilted {lean_deg}: both long edges "
    "lean inward and meet.",
    "corner_block.edge": "Rip a strip standing on edge, its free face flat against a tall fence, the saw tilted "
    "{lean_deg}: turned end for end for the second leg. The wider stock it is cut from is held to a carrier.",
    "corner_block": "Its free face comes out {base_mm} wide, {base_deg} between it and each leg, the legs {leg_mm}: "
    "{strip_mm} of it, with some to hold. Plane {point_mm} of each leg off its point, so that it beds on both walls. "
    "Crosscut {count}, each {each_mm}.",
    "corner_block.slants": "The corner leans, so the ends are trimmed level where the block is to stand, {tall_mm} "
    "apart along the corner.",
    "corner_block_glue": "Glue on the two legs only, pressed in by hand and rubbed until it grabs; no clamp is needed.",
    "key_glue": "Glue on both cheeks; press each key to the floor of its slot until it shows on both faces of the "
    "corner, and leave it overnight.",
    "key_flush": "Tape beside each key under the flush saw, then plane from the corner inward, never off the corner.",
    "level.gable": "Until it lies without rocking; the slopes under the roof are held against a straight edge from "
    "gable to gable and eased where they rock.",
    "level": "The bottom first, until it lies without rocking; then the top. Turn the box often.",
    "finish": "Sand through the grits to 220 or 240.",
    "finish.steamed": "Steam out dents before the last grit.",
    "finish.filled": "Fill dents: steam would lift a plywood veneer. Sand its faces lightly, for they are thin.",
    "finish.oil": "Wipe off the dust. Flood the wood with oil, wait a quarter of an hour, and wipe off all that is "
    "left. Put on {coats|coat|coats} in all. Let each dry {wait_h:1} h. Rub with 320 between them.",
    "finish.lacquer": "Wipe off the dust. Put on {coats|thin coat|thin coats} of lacquer. Let each dry {wait_h:1} h. "
    "Rub with 320 between them, and wipe off the dust.",
    "finish.thin_coats": "Wipe off the dust. Put on {coats|very thin coat|very thin coats}. Let each dry {wait_h:1} "
    "h. Rub wet with 600 between them. Stop when the slurry takes the color of the wood.",
    "finish.shellac": "Wipe off the dust. Put on {coats|thin coat|thin coats} of shellac. Let each dry {wait_h:1} h. "
    "Rub with 320 between them, and wipe off the dust.",
    "finish.wax": "Wipe off the dust. Rub in {coats|thin coat|thin coats} of wax. Let each dry {wait_h:1} h. Buff each "
    "one before the next.",
    "finish.inside": "Finish the inside as well.",
    "finish.lined": "Leave the inside bare: lining is glued to it.",
    "finish.mask": "Mask the openings.",
    "finish.parts": "Finish parts that go in later before they go in.",
    "finish.rags": "Let the box stand in an airy room.",
    "own": "{text}",
    "own.bare": "In your own way.",
    "trim": "Past checks and snipe; this is where the strip begins.",
    "trim.away": "The grain is broken here: so much of the strip is cut away behind the last piece; then {sides}.",
    "on_board": "From “{board}”: {sides}.",
    "crosscut": "In this order along the strip, so that the grain runs on; no piece without its letter and its arrow.",
    "crosscut.any": "Alike ones one after the other to the same stop; no piece without its letter and its arrow.",
    "crosscut.any_creep": "Alike ones one after the other to the same stop; no piece without its letter and its "
    "arrow. {left_mm} is left to creep up on the line.",
    "crosscut.creep": "In this order along the strip, so that the grain runs on; no piece without its letter and its "
    "arrow. {left_mm} is left to creep up on the line.",
    "crosscut.again": "The same stop as before: hold the piece against the first one cut to it, for equal length "
    "matters more than exact length.",
    "crosscut.square": "Square, and as long as its two ends reach: the swing comes with the bevel.",
    "crosscut.both_hands": "The stop measures along the {edge} edge. Show face up and that edge toward you, the "
    "start's cut leans {start_hand} as it goes away from you and the end's cut leans {end_hand} as it goes away from "
    "you.",
    "crosscut.start_hand": "The stop measures along the {edge} edge. Show face up and that edge toward you, the "
    "start's cut leans {start_hand} as it goes away from you; the end's is square.",
    "crosscut.end_hand": "The stop measures along the {edge} edge. Show face up and that edge toward you, the end's "
    "cut leans {end_hand} as it goes away from you; the start's is square.",
    "crosscut.miters": "Both ends at their miter, square to the face, to the final length.",
    "crosscut.begins": "The start's cut begins {start_mm} along that edge, from the blank's end.",
    "bevel.chamfer_bit": "{face} up on the router table, in small passes, with a backing piece behind the edge "
    "against tear-out; the last pass just reaches the {arris} edge.",
    "bevel.shooting_board": "Saw near the line by hand; {face} up on the shooting board against a block of this "
    "angle, and plane until the plane just reaches the {arris} edge.",
    "bevel.on_its_edge": "Bevel {bevel_deg} is further than the saw tilts: stand the piece on its edge against the "
    "fence, {face} to the fence, and swing the saw {bevel_deg}. The cut dies at the {arris} edge.",
    "bevel.on_end": "Bevel {bevel_deg} is past the saw's stop: the piece is at its length already. Stand it on end, "
    "clamped to a carrier, {face} against the tall fence, the blade leaning away at {tilt_deg} and more than "
    "{rise_mm} high. There is no length stop: the near side of the kerf meets the table where the {arris} edge stands.",
    "bevel.direct": "{face} up, the blade leaning away from the piece. The kerf just reaches the last cut at the "
    "{arris} edge.",
    "bevel.direct_turned": "{face} up, the blade leaning away from the piece; the board turned end for end. The kerf "
    "just reaches the last cut at the {arris} edge.",
    "bevel.loop": "{face} up, the blade leaning away from the piece, letter by letter in this order. Mark its line; "
    "turn the board end for end and bevel its start, so that the kerf just reaches the last cut at the {arris} edge; "
    "turn it back, its start against the stop of its length, and bevel its end. Then the next.",
    "bevel.direct_creep": "First {creep_mm} clear of the line, then creep up to it.",
    "bevel.creep_start": "{face} up, the blade leaning away from the piece; creep up until it has taken {creep_mm} "
    "off the {arris} edge; as much is still to come off the end.",
    "bevel.creep_end": "{face} up, the blade leaning away from the piece; creep up until it has taken {creep_mm} off "
    "the {arris} edge, to the final length.",
    "bevel.dies": "{face} up, the blade leaning away from the piece; the cut dies at the {arris} edge and takes "
    "nothing of its length.",
    "bevel.inside_longer": "Here the inside is the longer face, and the stop is measured on it.",
    "bevel.hand": "With the {edge} edge toward you the cut leans {hand} as it goes away from you.",
    "bevel.scale": "The scale shows {shown_deg}: {error_deg:3} off in each of {cuts} cuts would leave the last joint "
    "{gap_mm} open. Cut a test pair and correct.",
    "groove": "Inside face down, {edge} edge on the fence.",
    "groove.arris": "Inside face down, {edge} edge on the fence, where its {arris} arris touches first.",
    "groove.sides": "In the finished sides, in {passes}, every side before the fence is moved.",
    "groove.strip": "In the long strip, in {passes}, so that it lines up at every corner.",
    "groove.planed": "In the sides, cut to length and as thick as each will be, in {passes}, every side before the "
    "fence is moved.",
    "groove.pieces": "In the pieces, now ripped to height, in {passes}, so that it lines up at every corner.",
    "groove.eaves": "In the roof it runs on past the walls: plug it where it shows under the eaves, once the house is "
    "glued.",
    "groove.across": "The groove runs across the grain. Guide each side with the miter gauge or a square push block, "
    "backed where the cutter comes out, with a long face on the fence. Never run the narrow end along the fence by "
    "hand.",
    "groove.turned": "Then the same turned end for end, top edge on the fence.",
    "groove.fitted": "The cutter is as wide as the panel is thick: cut once, and plane the panel until it slides in.",
    "groove.bit": "A little deeper each time, against the bit's turning; the last pass light.",
    "dado": "Inside face down, the side's start against the stop.",
    "dado.passes": "Inside face down, the side's start against the stop; {passes}.",
    "dado.reach": "It runs on to the top edge, for the dividers go in from there; they reach {reach_mm} up.",
    "dado.held": "The dividers go in as the walls are closed, for from above they do not pass; they reach {reach_mm} "
    "up.",
    "dry_fit": "Look at every corner inside and out, and measure {across}.",
    "panel": "Try it in the dry ring: it must slide with its play, or the ring will not close.",
    "panel.traced.less": "Traced from the dry ring's inside, {add_mm} less all round: as it is planned it does not "
    "reach into its groove.",
    "panel.grain.length": "Its grain runs along side A.",
    "panel.grain.width": "Its grain runs square to side A.",
    "panel.sheet": "It is cut from sheet stock.",
    "panel.traced": "Traced from the dry ring's inside at the groove, {add_mm} more all round; it must lie in the dry "
    "ring with its play.",
    "panel.tongue.some": "Plane both faces of its edges toward {sides} to a tongue {tongues}, {held_mm} long, that "
    "leans as the side's own thickness does; try it in an offcut of the groove. Its other edges stay as they are.",
    "panel.tongue": "Plane both faces of its edges to a tongue {tongues}, {held_mm} long, that leans as the side's "
    "own thickness does; try it in an offcut of the groove.",
    "glue.lay_out": "Lay everything out in its order first, dry, and close it once without glue.",
    "glue.tape": "Tape the sides end to end, show face up; glue both faces of every miter, roll the ring up round "
    "what goes in, and close the last corner with tape. All joints but the last come tight; what is left of the "
    "errors shows there.",
    "glue.aslant": "Rolled in, the last side's groove comes to the panel aslant: put that side on straight.",
    "eaves.lines": "The roof lies on the walls: draw a line along each leaf's underside, {first_mm} from the ridge's "
    "inner arris, for the outer face of its wall.",
    "eaves.lines.unlike": "The roof lies on the walls: draw a line along each leaf's underside for the outer face of "
    "its wall, on C {first_mm} from the ridge's inner arris, on D {second_mm}.",
    "glue.eaves": "Tape the floor and the walls end to end, show face up; glue both faces of their miters and roll "
    "them up round what goes in. Glue the ridge and hold it with tape. Then glue the walls' tops, and set the roof "
    "down on them from above, to its lines and over what goes in; a band under the floor and over the ridge draws it "
    "down.",
    "glue.splines": "A spline goes straight into both its grooves, so the ring is not rolled up: the sides stand round "
    "what goes in, the splines in one end of each, with glue in both grooves, and all corners are pushed home "
    "together, a little at a time.",
    "glue.splines.tape": "Glue both faces of every miter too; then tape round it all, drawn tight.",
    "glue.band": "The band lies ready, laid out round {round_mm}; glue both faces of every miter, then tighten a "
    "little at a time: the band shares what is left of the errors among all corners.",
    "glue.bar": "Two clamps for each pair of sides, a waxed caul on every side as long as the side ({cauls}); glue "
    "both faces of every miter, one pair lightly, then the other, then both in turn.",
    "glue.corner": "A caul with its notch at every corner; glue both faces of every miter and tighten the corners in "
    "turn, a little each.",
    "glue.ply": "Plywood may be glued all round in its groove: it makes the box stiffer. Solid wood never.",
    "glue.dadoes": "A spacer goes into each empty dado, waxed, so that the walls stay straight.",
    "glue.dividers": "The dividers go in with it, dry in their dadoes: from above they do not pass the mouth.",
    "glue.corners": "Tape in the inside corners catches what is squeezed out.",
    "glue.slips": "Before it grabs, measure {across}. If it slips: loosen, put it right, tighten again a little at a "
    "time.",
    "glue.overnight": "Leave it overnight.",
    "keys": "In a cradle of {cradle_deg}, {edge} edge to the fence; {slots|slot|slots}.",
    "keys.passes": "In a cradle of {cradle_deg}, {edge} edge to the fence; {slots|slot|slots}, {passes} each.",
    "keys.hand": "By hand: two knife lines square across the corner for each slot, measured along it from the {edge} "
    "edge. Saw just inside both, a block clamped beside the line as a guide, and pare out what is between; "
    "{slots|slot|slots}, no deeper than the line.",
    "keys.mirrored": "The mirrored slots are measured alike from the other edge.",
    "keys.bit": "The bit takes each slot in small steps of depth, a backing block behind the corner.",
    "keys.thin": "Clamp a jig with the corner's angle to the router table, so that the cutter reaches up through it. "
    "Set the height once, slide the box through against the jig, and back it up where the cutter comes out.",
    "keys.turned": "The mirrored slots on the same setting, with the box turned over.",
    "keys.backing": "A flat sacrificial backing in the cradle, renewed for each setting, keeps the corner from "
    "chipping where the blade comes out.",
    "keys.dovetail": "A straight bit first takes most of the waste; then the dovetail bit, at its full depth in one "
    "pass, a backing block behind the corner. Never lift the work off it.",
    "keys.veneer": "By hand, one cut each with the fine saw, its kerf as wide as the veneer, measured along the "
    "corner from the {edge} edge; {slots|cut|cuts}, no deeper than the line.",
    "keys.tipped.low": "The cradle tipped by {tip_deg}, the end at the fence high (a shim of {shim_mm} under that end "
    "of a cradle {over_mm} long). Measured from the end of the corner's arris, level along the table.",
    "keys.tipped.high": "The cradle tipped by {tip_deg}, the end at the fence low (a shim of {shim_mm} under the "
    "other end of a cradle {over_mm} long). Measured from the end of the corner's arris, level along the table.",
    "keys.slant": "So the slots slant by {slant_deg} on the faces, from square to the corner.",
    "keys.steep": "So far tipped, the box would slide: clamp it to the cradle.",
    "keys.level": "So the slots lie level.",
    "keys.tipped.low.hand": "The cuts slant toward the {edge} edge as they go down the faces, {slant_deg} from square "
    "to the corner.",
    "keys.tipped.high.hand": "The cuts slant away from the {edge} edge as they go down the faces, {slant_deg} from "
    "square to the corner.",
    "keys.leaning": "The corner leans, so the fence is measured along it, from its {edge} end: let a block on the "
    "fence touch that end alone.",
    "keys.leaning.hand": "The corner leans: each cut lies square to it, and so not level.",
    "lid": "The line is {line_mm} up. The {edge} edge on the fence.",
    "lid.panel_on": "The panel is on, {panel_mm} of it outside the sides: the fence is set for that.",
    "lid.panel_on.hand": "The panel is on, {panel_mm} of it outside the sides: measure from its face.",
    "lid.wider": "The line is {line_mm} up. The {edge} edge on the fence: it is the wider, so that the far side keeps "
    "clear of the fence.",
    "lid.band_saw": "The line is {line_mm} up. The box on one of its sides, its bottom flat against a tall fence, "
    "packed so that it cannot rock: through in one pass, {across_mm} high, body and lid held together to the end.",
    "lid.hand_saw": "Scribe a line all round {low_mm} up from the bottom with a gauge; saw a little way in from every "
    "corner along it, turning the box, until the saw runs in its own kerf all round.",
    "lid.opposite": "Two opposite sides, then the others with the kerfs packed; or round the box, side by side, the "
    "last cut packed: the halves must not pinch the blade.",
    "lid.round": "Round the box, side by side, always the same way; pack the kerfs before the last cut, so that the "
    "halves do not pinch the blade.",
    "past_stop.groove": "The saw tilts to {stop_deg} and no further: rout the groove along a wedge of {leans_deg}.",
    "past_stop.dado": "The saw tilts to {stop_deg} and no further: chop the dado, or rout it along a guide, "
    "{leans_deg} from square.",
    "past_stop.lid": "The saw tilts to {stop_deg} and no further: scribe the line all round, and free the lid with a "
    "hand saw.",
    "lid.no_miter_saw": "Not on a miter saw: in two passes it leaves a step, and nothing holds the halves.",
    "true_lid.leans": "The sides lean, so the lid comes out {step_mm} wider or narrower all round than the rim it "
    "meets: plane the two flush once they are together.",
    "true_lid": "Both edges on a flat sheet of abrasive or a shooting board, {each_mm} off each: the body is then "
    "{body_mm} high and the lid {lid_mm}. Turn the work often, and look along all rims.",
    "divider": "Ends square to the faces.",
    "divider.fit": "Plane it until it slides into its dadoes by hand: glue swells it.",
    "halve": "From the {edge}, half the height, so that those along drop over those across. Measured along its foot; "
    "try the slot on an offcut of the divider.",
    "divider_fit.finish": "Sand and finish both faces first, and keep finish off the ends that slide in the dadoes.",
    "divider_fit": "From the top, each down its dadoes to the floor.",
    "divider_fit.crossing": "From the top, down their dadoes to the floor: those across first, then those along over "
    "them.",
    "divider_fit.stay": "No glue: the wood stays free to move. The fillets come over their ends and keep them in.",
    "divider_fit.dry": "No glue: they come out again, and the wood stays free to move.",
    "liner_fit": "Tape it dry inside the glued box before any glue. Plane its outside where it binds.",
    "liner_fit.stays": "A few dots of glue on bare wood hold it; finished walls take none.",
    "liner_fit.loose": "No glue: the false floor under it lifts out after it.",
    "liner_fit.pieces": "As a ring it does not pass the mouth: piece by piece, each bevel on its neighbour's, dry "
    "first and the last one planed to what is left; a few dots of glue hold it.",
    "liner_fit.dividers": "The dividers go in with it, dry in their dadoes.",
    "liner_fit.drops": "It drops in by its own weight and comes out by hand.",
    "liner_fit.pushed": "With so little room it goes in with a push of the hand, not by its own weight.",
    "opening.hole": "Show face up on a backing board, bottom edge to the fence; the bit goes through into the board.",
    "opening.slot": "Show face up on a backing board, bottom edge to the fence. Bore both ends, then saw between them "
    "and file to the lines.",
    "opening.notch": "Mark it from a template of radius {radius_mm}, {width_mm} wide and {high_mm} deep at the rim; "
    "saw it and sand to the line.",
    "opening.clamped": "Both sides together, inside faces touching and bottom edges flush, so that the two are alike.",
    "opening.body": "In the rim of the body, once the lid is free.",
    "block": "From a strip planed to width and thickness; all to one stop. They have {play_mm} of play in all: try "
    "them in the box as it came out, for that is what they are to fill.",
    "foot.block": "From a strip of this width, its grain along the strip; every cut parallel to the last.",
    "foot.mitered": "From a strip ripped to the feet's height; left and right feet are mirrored, so mark which is "
    "which.",
    "foot.wedge": "From the offcuts of the bevels, by hand saw or on a sled: their longest straight stretch.",
    "band_cut": "{count|strip|strips}, each a little longer than its side and wider than its edge: together "
    "{long_mm}, at least {wide_mm} wide. The list has every length.",
    "band": "On the {edges} edges, when they are flat: glued or ironed on, mitered where two meet, pressed down until "
    "they hold. What hangs over is trimmed flush with a sharp chisel or a file, toward the wood; then the arris eased.",
    "band.grows": "It adds {band_mm} to the height at every banded edge.",
    "leaf": "Both leaves of the board at the same place, {at_mm} to {end_mm} from its start, from the straight edge "
    "up: so they mirror each other. An arrow on both to the edge that is glued.",
    "leaf_glue": "Opened like a book, the sawn faces up, edge to edge as they lay on each other. Both joint edges "
    "planed together, so that they close whatever their angle; glued on a flat surface, paper under the joint. Leave "
    "overnight.",
    "foot_glue.mitered": "Each pair is glued in its miter first.",
    "foot_glue": "Once the bottom is flat: {inset_mm} from the outside, rubbed on with little glue and left under a "
    "weight.",
    "foot_glue.under": "Once the bottom is flat: {inset_mm} from the bottom's edge, rubbed on with little glue and "
    "left under a weight.",
    "foot_glue.flush": "Once the bottom is flat: flush with the outside, rubbed on with little glue and left under a "
    "weight.",
    "segment.pie": "Triangles from a strip {strip_mm} wide and {length_mm} long. Flip the strip face "
    "for face after every cut.",
    "segment.ring": "Trapezoids from a strip {strip_mm} wide and {length_mm} long. Flip the strip face "
    "for face after every cut.",
    "segment.hole": "The ring leaves a hole {hole_mm} across its flats: close it with a panel of your own.",
    "segment_glue.order": "{order}.",
    "segment_glue.trim": "The blank is {over_mm} larger all round than the panel: trim it once it is true.",
    "segment_groove": "Each segment stands on a joint edge, its show face to the fence, held to a carrier; both "
    "edges, {grooves} grooves, the show face always to the fence, so that they line up.",
    "segment_groove.stop": "Stop {long_mm} from the outside: further in the two grooves would meet.",
    "segment_glue": "With {error_deg:1} of error in each of {cuts} cuts the last joint would stand {gap_mm} open at "
    "the rim: that is what truing the halves takes away.",
}
