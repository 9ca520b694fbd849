"""The sentences of findings: what is wrong, and why. Read by `words.findings` over a finding's own numbers."""

from typing import Final

# By code; `code/kind` where one code is said in several ways; `code+more` what is said besides.
TEXTS: Final[dict[str, str]] = {
    # --- the ring
    "outline_concave": "The corner after side {side} is {interior_deg:4}: a mitered ring must be convex, every corner "
    "under 180°.",
    "outline_unknowns": "{unknown} values are left open; a ring gives up to three. Give {lacking} more.",
    "outline_unknowns/no_length": "Give the length of one side at least.",
    "outline_open": "The ring stays open by {gap_mm}. Change a side or a corner.",
    "outline_open/unsettled": "These sides and corners do not settle one convex ring: change one of the values, or "
    "leave other ones open with “?”.",
    "outline_open/corner": "The corners add up to {sum_deg:4}; {sides} sides need {need_deg}. The corner after side "
    "{side} cannot be {given_deg:4}: it would have to be {wanted_deg:4}.",
    "outline_open/side": "The ring stays open by {gap_mm}. Side {side} cannot be {given_mm:4}: it would have to be "
    "{wanted_mm:4}.",
    "outline_open/two_sides": "The ring stays open by {gap_mm}. Side {other} and side {side} would have to be "
    "{other_wanted_mm:4} and {wanted_mm:4}.",
    "outline_open+too_long": "Side {long} is as long as all the others together: it would have to be under "
    "{under_mm:4}.",
    "outline_open+each": "By itself, each of these closes it: {alone}.",
    "outline_open+only": "Nothing else closes it by itself: {alone}.",
    "outline_open+sum": "No corner by itself closes it, two sides must give way too; for the sum: {alone}.",
    "outline_open+none": "No single side closes it by itself.",
    "corner_not_convex": "A corner of {interior_deg} cannot be mitered from outside: every corner must be between 0° "
    "and 180°.",
    "side_vanishes": "Side {side} has no length left outside: its neighbours meet before it. Make it longer, or the "
    "sides closer to one thickness.",
    "side_vanishes/roof": "Nothing is left of wall {side} outside below the roof. Make the walls higher or the roof "
    "thinner.",
    "slopes_cross": "The sides lean together and meet at {meet_mm}, below the height of {height_mm}. Lower the box or "
    "lean less.",
    "side_too_short": "Side {side} is {outside_mm} long outside, and its miters take {taken_mm}: nothing is left "
    "inside. Make the side longer or the wood thinner.",
    "side_too_short/top": "Side {side} is {outside_mm} long outside at the top, and its miters take {taken_mm}: "
    "nothing is left inside. Make the side longer or the wood thinner.",
    "unequal_thickness": "The sides differ in thickness by {differ_mm}. Where two thicknesses meet, the two bevels "
    "differ and the joint no longer halves the corner: the line shows at the rim, and each piece needs its own tilt.",
    # --- a roof laid on
    "roof_laid_on": "With an overhang the eaves are not mitered: the roof, {roof_mm} long and cut {ends} at the "
    "eaves, lies on the walls, whose tops are bevelled {wall_top_bevel_deg} with the inside the higher. The grain "
    "does not run on there.",
    "roof_laid_on/unlike": "With an overhang the eaves are not mitered: the roof, {roof_mm} long and cut {ends} at "
    "the eaves, lies on the walls, whose tops are bevelled {wall_top_bevel_deg} and {other_bevel_deg} with the inside "
    "the higher. The grain does not run on there.",
    "roof_laid_on+groove": "The panel's groove runs on past the walls: plug it where it shows under the eaves.",
    "overhang_bares_wall": "An overhang of {overhang_mm} cut square leaves {lacking_mm} of the walls' tops bare. Give "
    "at least {wanted_mm}, or cut the eaves plumb.",
    "eaves_below_floor": "The eaves hang {below_mm} below the floor: the house would stand on them. Let the roof run "
    "past the walls by less, or make the walls higher.",
    # --- the board
    "strip_off_end": "The strip runs {over_mm} off the end of the board. It fits if it starts at most {room_mm} past "
    "the trim.",
    "board_too_short": "The ring needs {needed_mm} of board and there are {board_mm}: {short_mm} too short. A board "
    "of {wanted_mm} would do.",
    "board_too_short/smaller": "The ring needs {needed_mm} of board and there are {board_mm}: {short_mm} too short. A "
    "board of {wanted_mm} would do, or a box {percent} % of this size.",
    "board_too_narrow": "The sides take {strip_mm} of the board's width and it is {board_mm} wide: {narrow_mm} too "
    "narrow. Lower the box or take a wider board.",
    "board_too_narrow/upright": "With the grain upright the strips side by side take {strip_mm} of the board's width "
    "and there are {board_mm}: {narrow_mm} too narrow. Sides that are not alike must lie side by side.",
    "flip_cannot_be/saw": "{machine} shapes an edge and never parts a board: one cut cannot serve two pieces. "
    "Crosscut the sides square first.",
    "flip_cannot_be/leaning": "Sides that lean unlike one another cannot share a cut: where two meet, their ends are "
    "not alike. Crosscut them square first.",
    "flip_cannot_be/unlike": "Two pieces share a cut only where both bevel alike, the show face the longer, and are as "
    "thick: here they do not. Crosscut the sides square first.",
    "flip_cannot_be/on_end": "A bevel past the saw's stop is cut with the piece on end, and a board cannot stand on "
    "end: crosscut the sides square first.",
    "flip_shows_back": "Every other side shows the board's back, and grooves wait until the sides are parted: for "
    "plain wood and sheet stock, not for a grain that runs round.",
    "book_seams": "Half the ring from each leaf: the grain runs over every corner. At the two seams {lost_mm} is lost "
    "between the leaves, through the thickness.",
    "book_seams/apart": "The two halves of the ring differ by {apart_mm}: the grain runs over every corner but "
    "{corner}. At the other seam {lost_mm} is lost between the leaves, through the thickness.",
    "upright_cannot_be/saw": "{machine} does not rip: strips with their grain upright are bevelled along their long "
    "edges at a table saw.",
    "upright_cannot_be/leaning": "Leaning sides are trapezoids and do not come from strips ripped parallel: let the "
    "grain run round, or stand the sides upright.",
    "upright_cannot_be/roof": "A house's roof and walls are not cut with their grain upright here: let the grain run "
    "round.",
    "upright_cannot_be/inside_longer": "Strips with their grain upright are bevelled show face up, and here a side is "
    "longer inside: let the grain run round.",
    "upright_cannot_be/on_end": "A bevel past the saw's stop cannot be ripped along a strip: let the grain run round.",
    "upright_moves": "With the grain upright the ring itself grows and shrinks in its length and width: give every "
    "panel play all round, plywood too.",
    "on_a_mark": "The {face} of side {side} lies on the {mark}. Move the strip along, take the board's other face, or "
    "allow it there.",
    "wish_front": "The {mark} that is wished on the front does not lie on side {side}.",
    "wish_height": "The {mark} that is wished {at_mm} above the bottom edge lies at another height, or on no side.",
    "part_board_thin": "The {part} is {thick_mm} thick and “{board}”, which it is to come from, gives {board_mm}.",
    "part_board_small": "The {part} needs {long_mm} × {wide_mm} and does not come out of “{board}”.",
    "breaks_not_cut": "The wrap is broken at a corner, and only sides that are cut square first can come from several "
    "strips.",
    "break_board_gone": "“{board}”, from which the wrap was to go on, is no longer on the rack. The sides are shown "
    "on the first board.",
    "break_board_small/long": "“{board}” is {board_mm} long; what is to come from it takes {needed_mm}.",
    "break_board_small/wide": "“{board}” is {board_mm} wide; the strip from it takes {needed_mm}.",
    "break_board_small/thick": "“{board}” gives {board_mm} of thickness; the sides are {needed_mm} thick.",
    "wrap_broken": "The grain runs on at all but {broken:0} of {count:0} corners: it is broken at {corners} and where "
    "it closes.",
    "leaves_not_resawn": "Panels of two leaves come from a board that is sawn into two: this one is not, or not thick "
    "enough.",
    "leaves_thin": "A leaf is {leaf_mm} thick once it is flat, and the {panel} panel is {panel_mm}. Make it thinner, "
    "or whole.",
    "leaves_no_room": "The leaves for the {panel} panel lie beyond the sides and end at {needed_mm}; the board is "
    "{board_mm} long.",
    "leaves_narrow": "Half the {panel} panel takes {needed_mm} of the board's width, which is {board_mm}.",
    "sheet_edges": "Sheet stock shows its plies at the edges: band those that show, none that is glued. Measure the "
    "sheet's true thickness first.",
    "sheet_banded": "Sheet stock: banding for {edges|edge that shows|edges that show}, {long_mm} of it, {wide_mm} "
    "wide. The box grows {grows_mm} higher. Measure the sheet's true thickness first.",
    "board_too_thin": "The sides are {thick_mm} thick and the board is {board_mm}. Make the sides as thin as the "
    "board gives once it is planed, or take a thicker one.",
    "grain_turns": "Leaning sides are trapezoids on a straight board: at corner {corner} the grain turns by "
    "{turned_deg}.",
    "direct_cannot_be/saw": "{machine} shapes an edge and never parts a board. Crosscut the sides square first.",
    "direct_cannot_be/on_end": "A bevel past the saw's stop is cut with the piece on end, and a board cannot stand on "
    "end. Crosscut the sides square first.",
    "direct_cannot_be/on_edge": "A bevel past the miter saw's stop is cut with the piece on its edge and the saw "
    "swung, each piece by its own length. Crosscut the sides square first.",
    "direct_cannot_be/unlike": "Sides that lean unlike each other are ripped one by one, after they are cut to "
    "length. Crosscut the sides square first.",
    "direct_cannot_be/past": "At these bevels one face of a side reaches past the other at its longer edge: a cut "
    "that dies there takes some of it. Crosscut the sides square first.",
    # --- the saw
    "bevel_not_given": "{machine} gives {nearest_deg} and this ring needs {bevel_deg}. Saw near the line and shoot "
    "the rest against a block of that angle.",
    "rip_past_stop": "Side {side} leans {lean_deg}, past the saw's stop at {stop_deg}: its long edges cannot be "
    "ripped flat on the table. Rip them on edge against a tall fence with the blade at {tilt_deg}, or plane them to a "
    "line.",
    "bevel_past_stop": "A bevel of {bevel_deg} is past the saw's stop at {stop_deg} (45-47° on most). Stand the piece "
    "on end against a tall fence with the blade at {tilt_deg}, or use a chamfer bit.",
    "bevel_past_stop/miter_saw": "A bevel of {bevel_deg} is further than the saw tilts ({stop_deg}), and a piece "
    "cannot stand on end there. Stand it on its edge and swing the saw {bevel_deg}.",
    "bevel_past_stop/too_far": "A bevel of {bevel_deg} is further than the saw tilts ({stop_deg}), and with the piece "
    "on its edge further than it swings ({swing_deg}). Use a table saw, a bit or a block.",
    "short_on_miter_saw": "Side {side} is {stop_mm} long: short pieces are hard to hold at a miter saw. Bevel them "
    "off the long board instead.",
    "bevel_past_stop/too_high": "A bevel of {bevel_deg} is further than the saw tilts ({stop_deg}), and on its edge "
    "the piece is {wide_mm} high where the saw cuts {high_mm}. Use a table saw, a bit or a block.",
    "miter_past_swing": "The ends swing {miter_deg} and the miter saw goes to {swing_deg}. Crosscut on the table saw.",
    "side_past_sled": "Side {side} needs the stop at {stop_mm} and the sled is {sled_mm} long: fix a longer fence to "
    "it, straight and square, with the stop on that.",
    "bevel_past_stop/leaning": "A bevel of {bevel_deg} is further than the saw tilts ({stop_deg}), and a piece cannot "
    "stand on end there. Leaning sides cannot stand on edge either: use a table saw, a bit or a block.",
    "too_many_passes": "{what} is {width_mm} wide and the blade takes {kerf_mm}: {passes} passes. Use a wider blade, "
    "or make it narrower.",
    "too_many_passes/tool": "{what} is {width_mm} wide and {cutter} takes {kerf_mm}: {passes} passes. Use a wider "
    "tool, or make it narrower.",
    "thinner_than_blade/tool": "{what} is to be {width_mm} wide and {cutter} takes {kerf_mm}: it comes out too wide. "
    "Use a narrower tool, or a thicker part.",
    "tool_upright": "{what} leans, and {cutter} stands upright: it cannot cut it. Use a blade that tilts, or have the "
    "groove square to the face.",
    "thinner_than_blade": "{what} is to be {width_mm} wide and the blade takes {kerf_mm}: it comes out too wide. Use "
    "a thinner blade or a bit, or a thicker part.",
    # --- panels and their grooves
    "groove_through": "The groove for the {panel} is {depth_mm} deep in sides of {thickness_mm}: it cuts them through.",
    "groove_through+shallower": "Make it at most {half_mm} deep.",
    "groove_through+thicker": "Use thicker sides.",
    "groove_wall_thin": "The groove for the {panel} leaves {wall_left_mm} of wall.",
    "groove_wall_thin+shallower": "Make it {half_mm} deep or use {thicker_mm} sides.",
    "groove_wall_thin+thicker": "Use {thicker_mm} sides.",
    "panel_falls_out": "With {play_mm} of play each side in a groove {depth_mm} deep the {panel} panel does not reach "
    "into it. Give less play or a deeper groove.",
    "groove_edge_thin": "Only {wood_mm} of wood stands between the groove for the {panel} and the edge: it breaks "
    "off. Leave {wanted_mm}, or let the panel into a rabbet.",
    "groove_above_box/bottom": "The groove for the bottom ends {groove_ends_mm} up and the box is {height_mm} high. "
    "Put the groove lower.",
    "groove_above_box/top": "The groove for the {panel} ends {groove_ends_mm} down and the box is {height_mm} high. "
    "Put the groove higher.",
    "grooves_overlap": "The grooves for bottom and top run into each other by {over_mm}. Make the box higher, or move "
    "the grooves nearer to its edges.",
    "groove_leans": "The sides lean {slope_deg} and the {panel} lies level, so its groove leans too.",
    "groove_leans+level": "Its walls are cut level, the blade tilted {slope_deg}: {opening_mm} wide along the face, "
    "the blade {height_mm} high. It could be cut square and wider, or square for a tongue on the panel's edge.",
    "groove_leans+square": "It is cut square to the face, {opening_mm} wide, so that the panel goes in aslant; the "
    "gap shows inside. A groove with level walls would fit it closely.",
    "groove_leans+tongue": "It is cut square to the face for a tongue {tongue_mm} thick, both sides of the panel's "
    "edge planed to {slope_deg}. A groove with level walls leaves the panel as it is.",
    "groove_past_stop": "The groove for the {panel} wants the blade tilted {tilt_deg}, past the saw's stop at "
    "{stop_deg}. Cut it square to the face and wider, or rout it along a wedge.",
    "tongue_too_thin/none": "At {slope_deg} nothing of the {panel}'s {panel_mm} is left for a tongue. Cut the groove "
    "with level walls, or lean the sides less.",
    "tongue_too_thin": "At {slope_deg} a tongue of the {panel}'s {panel_mm} is only {thin_mm} thick. Cut the groove "
    "with level walls, or take a thicker panel.",
    "panel_held_by_one_face": "In a groove square to the face one face of the {panel} goes in {in_mm} only. Cut the "
    "groove with level walls, or deeper.",
    # --- the lid
    "lid_too_low": "A lid {lid_mm} high breaks in the hand. Make it higher, or leave it out.",
    "lid_line_near_groove": "Only {stands_mm} of wood stands between the lid line and the groove for the {panel}: it "
    "breaks out. Move the lid line.",
    "lid_sawn_rough": "{cutter} leaves rough edges, and truing takes only {clean_mm} off both together. Allow "
    "{wanted_mm}.",
    "lid_leaves_no_body": "Lid, kerf and clean-up take {taken_mm} of {height_mm}: no body is left. Lower the lid.",
    "lid_line_meets_groove": "The lid line starts {lid_line_mm} up and the groove ends {groove_top_mm} up: the saw "
    "would free the bottom. Lower the lid or the groove.",
    "lid_line_meets_top": "The lid line ends {lid_line_mm} up and the groove for the top starts {groove_mm} up: the "
    "saw would free the top panel. Make the lid higher.",
    "clamps_cannot/band_short": "{cutter} is too short: the box is {round_mm} round. Take a longer band, or tape.",
    "clamps_cannot/bar_shape": "{cutter} press pairs of parallel sides only, and this ring has none all round. Take a "
    "band, or tape.",
    "clamps_cannot/bar_short": "{cutter} open too little: {across_mm} is needed. Take longer ones, or tape.",
    "clamps_cannot/bar_few": "Of {cutter} there are too few: {needed} are needed, two for each pair of sides. Take "
    "more, or tape.",
    "key_leaves_side": "At {corner} a slot square to the leaning corner leaves the side at its edge by {over_mm}. "
    "Keep keys further from the edges, or make their slots less deep.",
    "snipe_in_strip": "{cutter} snipes {snipe_mm} at the board's ends, and only {trim_mm} is trimmed off: the first "
    "side would be thin there. Trim more, or plane the snipe off.",
    "stock_far_thicker": "The board is {over_mm} thicker than the sides. Resaw it and keep the other leaf, instead of "
    "planing all that away.",
    "contents_bind": "The {thing} have {play_mm} of play, too little to lift them out by hand. Give them {needed_mm} "
    "or more.",
    "resaw_too_high": "The board is {wide_mm} wide, and the table saw reaches {reach_mm} from both edges. Resaw it on "
    "a band saw or by hand, or rip it narrower first.",
    "resaw_too_high/band_saw": "The board is {wide_mm} wide, and {cutter} saws {reach_mm} high. Use another saw, or "
    "rip the board narrower first.",
    "resaw_too_thin": "Two leaves need a board {needed_mm} thick, with the kerf and what surfacing takes, and this "
    "one has {thickness_mm}. Plane it instead, or take a thicker board.",
    "lid_past_stop": "To free the lid the blade would lean {leans_deg}, and the saw tilts to {stop_deg}. Free it with "
    "a hand saw along a scribed line, or lean the sides less.",
    "lid_past_band_saw": "On its side the box is {across_mm} high, and {cutter} saws {high_mm}: the lid cannot be "
    "freed there. Use the table saw, or a hand saw.",
    "rabbet_leans": "The {panel} is let into a rabbet, and the sides lean: a rabbet is cut square to its edge and the "
    "level panel would not lie in it. Let it into a groove, or stand the sides upright.",
    "rabbet_through": "The rabbet for the {panel} is {depth_mm} deep: nothing is left of the wall. Make it {half_mm} "
    "deep or use thicker sides.",
    "rabbet_wall_thin": "The rabbet for the {panel} leaves {wall_left_mm} of wall, less than half of it. Make it "
    "{half_mm} deep or use thicker sides.",
    "rabbet_holds_nothing": "Of the {panel}, {thickness_mm} thick, only {in_mm} goes into the rabbet. Let it stand "
    "out less.",
    # --- what is inside, and the way in
    "cannot_pass_mouth/liner": "The liner reaches {over_mm} further out at its foot than the mouth of this box, whose "
    "sides lean in: it does not go in from above. It is put in piece by piece.",
    "cannot_pass_mouth/divider": "A divider reaches {over_mm} further out at its foot than the mouth of this box, "
    "whose sides lean in: it does not go in from above. The dividers are put in as the walls that hold them are "
    "closed, and stay there.",
    "cannot_pass_mouth/aslant": "A divider reaches {over_mm} further out at its foot than the mouth of this box, whose "
    "walls lean in, and meets walls aslant: it goes in neither from above nor as they are closed.",
    "cannot_pass_mouth/thing": "What it holds ({thing}) reaches {over_mm} further out from its middle than the mouth "
    "of this box, whose sides lean in: it does not go in from above. Lean the sides less.",
    "no_way_together": "No way was found to pack these things into one block: they stand beside each other.",
    "no_way_together/round": "Round things are not packed into one block: they stand beside each other.",
    "no_way_together/many": "Up to {most:0} things are packed into one block; these are more, and stand beside each "
    "other.",
    "hinges_no_lid": "Hinges are let into the rims of a lid that is sawn free or of a flat one, or between the boards "
    "of one in two or of a roof; there is none of these.",
    "liner_no_lip": "Nothing keeps the lid in place: the liner ends {down_mm} below the rim. Let it stand {lip_mm} "
    "proud, or use hinges.",
    "liner_no_lip/low": "The liner stands only {down_mm} proud of the rim: too little to keep the lid in place. Let it "
    "stand {lip_mm} proud, or use hinges.",
    "hinge_leaf_wide": "A leaf goes {within_mm} into the rim of side {side}, which is {wall_mm} wide: it would show "
    "inside.",
    "hinge_leaf_narrow": "Of the leaf {within_mm} lies in the wood: nothing for its screws to hold in.",
    "hinge_barrel_in": "With its axis {out_mm} out, a barrel of {barrel_mm} lies in the wood and the lid does not "
    "open all the way.",
    "hinge_barrel_through": "Half a barrel is {half_mm}, and the lid it lies under {thick_mm} thick.",
    "hinge_screw_long": "Screws {screw_mm} long come through the {part}, which is {high_mm} high.",
    "hinge_lip_binds": "As it swings, the lid needs {needs_mm} of room round the liner’s lip, and there are {gap_mm}: "
    "it binds. Give it room, or plane the lip’s far edge to it.",
    "hinge_lip_binds/tray": "The tray stands {proud_mm} out of the body, and as it swings the lid needs {needs_mm} of "
    "room round it: there are {gap_mm}. Give it room, or set the tray lower.",
    "hinge_lip_binds/dividers": "Dividers stand {proud_mm} out of the body, and the lid meets them as it swings. Make "
    "them lower.",
    "hinge_lip_binds/things": "What the box holds stands {proud_mm} out of the body, and the lid meets it as it "
    "swings. Open it with care, or make the body higher.",
    "hinges_no_room": "Side {side} has {room_mm} of rim between the corners for hinges {long_mm} long: they come too "
    "near a corner or each other.",
    "barrel_board": "Concealed barrels are bored into two rims, and this lid is a board without one.",
    "barrel_wall_thin": "A bore of {barrel_mm} leaves {left_mm} of wood beside it in the rim of side {side}.",
    "barrel_deep": "Bores {deep_mm} deep come through the {part}, which is {high_mm} high.",
    "barrel_bevel_high": "The bevel behind the axis reaches {down_mm} from the rim, and there are {high_mm} of wood "
    "over or under it.",
    "quadrant_corner": "Quadrants lie in square corners, and those at the ends of side {side} are not.",
    "quadrants_no_room": "Two leaves {length_mm} long meet on side {side}: each has {half_mm}.",
    "seam_butts": "Between two boards only butt hinges are let in.",
    "seam_leaf_wide": "A leaf goes {within_mm} down the edge of a board that is {high_mm} thick there.",
    "seam_barrel_in": "With its axis {out_mm} over the face, a barrel of {barrel_mm} lies in the wood.",
    "seam_gap_wide": "The two parts are {gap_mm} apart, and the two leaves between them fill {leaves_mm}.",
    "seam_no_room": "There are {room_mm} along the seam for hinges {long_mm} long: they come too near its ends or "
    "each other.",
    "seam_screw_long": "Screws of {screw_mm} come out of a board {wide_mm} wide behind its edge.",
    "leg_short": "A leg of {leg_mm} ends within the leaf beside it.",
    "leg_long": "A leg of {leg_mm} runs past side {side}: there are {room_mm} for it.",
    "leg_wide": "Legs {leg_wide_mm} wide leave {left_mm} of wood inside of them in side {side}.",
    "stay_wide": "The slot for the stay is {stay_wide_mm} wide, and the leg over it {leg_wide_mm}.",
    "stay_deep": "Slots {deep_mm} deep for the stays come out of a rim with {high_mm} of wood over or under it.",
    "magnets_no_lid": "Magnets are let into the rims of a lid that is sawn free, or of a flat one, and there is "
    "neither.",
    "magnet_wall_thin": "A magnet of {wide_mm} leaves {left_mm} of wall on either side of it in side {side}.",
    "magnet_deep": "Pockets {deep_mm} deep come through the {part}, which is {high_mm} high.",
    "magnets_no_room": "Side {side} has {room_mm} of rim between the corners for magnets {long_mm} wide: they come "
    "too near a corner or each other.",
    "magnet_in_hinge": "A magnet lies where a hinge is.",
    "lid_edges_no_lid": "Round the lid’s joint nothing is profiled: no lid is sawn free.",
    "lid_edges_strip": "Between body and lid lies a strip, and a profile on the rims would open beside it.",
    "top_edge_none": "Along the top there is no edge that runs round: the lid slides over a side, or the roof lies on "
    "it.",
    "edge_covered": "{edge} lies where nothing overhangs: the sides cover it. Give an overhang, or leave the edge "
    "square.",
    "edge_past_overhang": "{edge} is {size_mm}, and the overhang only {overhang_mm}: it would be cut away under the "
    "sides. Make it smaller, or let it overhang more.",
    "rim_edge_none": "The inner arris of the rim is taken: what closes the box lies on it or in it.",
    "rim_edge_unlike": "The sides differ in thickness or slope: profiles inside the rim would not meet in its corners.",
    "edge_past_panel": "A profile of {size_mm} goes past a board {thick_mm} thick.",
    "edge_panel_later": "{edge} is that of a panel glued on after the lid is freed: it cannot be cut before.",
    "edge_before_fence": "The sides lean, and the fence that the lid is freed along counts from the arris which "
    "{edge} takes away: cut it once the lid is free.",
    "edge_no_arris": "Side {side} leans so far that {edge} leaves no arris for the bit to take.",
    "edge_too_wide": "A profile of {size_mm} leaves {left_mm} of the rim of side {side}: too little to stand on or to "
    "close.",
    "edge_meets": "{edge} of side {side} is cut into {what}.",
    "edge_near": "Between {edge} of side {side} and {what} are left {wood_mm} of wood.",
    "edge_over_feet": "The feet are set in by {inset_mm} and the profile reaches {reach_mm}: they would stand out "
    "under it.",
    "edge_through_banding": "A profile of {size_mm} goes through banding {thick_mm} thick, and the sheet’s core shows.",
    "moulding_no_line": "The moulding’s section is no line: it wants two points or more, each as high as the last or "
    "higher.",
    "moulding_unlike": "The moulding meets at a corner only where both sides are as thick and lean as much.",
    "moulding_high": "The moulding goes {up_mm} up, and the sides are {high_mm} high.",
    "moulding_deep": "The moulding leaves {left_mm} of wall where it is deepest.",
    "moulding_meets": "In side {side} the moulding is cut into {what}.",
    "moulding_no_arris": "Lengths are measured, and bevels die, at the {end} edge of the show face, and the moulding "
    "cuts that away. Let it begin further in.",
    "moulding_near": "In side {side} the moulding leaves {wood_mm} of wood beside {what}.",
    "moulding_lies": "A moulding lies on its flat back, and this way of cutting puts its face down or against the "
    "fence. Another way to cut, or a chamfer bit, leaves it on its back.",
    "lining_meets/dividers": "The lining’s leaves run from wall to wall, and dividers stand there.",
    "lining_meets/fillets": "The lining’s leaves lie on the walls, and fillets are glued there.",
    "lining_meets/blocks": "The lining’s leaves run into the corners, and blocks are fitted there.",
    "lining_over_opening": "The lining covers an opening: it is cut through the leaf as well, once that is set.",
    "fitting_no_face": "There is no wooden board on top for {what}.",
    "fitting_off_face": "{what} comes too near the edge of its face, or over it.",
    "fitting_meets": "{what} lies where {cut} is.",
    "latch_no_lid": "A latch lies over the joint of a lid that is sawn free, and there is none.",
    "plate_screw_long": "Screws of {screw_mm} for {what} come too near the inside of side {side}, {wall_mm} thick.",
    "plate_deep": "Let in {in_mm}, {what} leaves too little of side {side}, {wall_mm} thick.",
    "plate_meets": "On side {side} {what} would lie over {cut}, or a screw go into it.",
    "latch_high": "The latch reaches {reach_mm} onto the {half}, which is {room_mm} high there.",
    "latch_no_room": "Side {side} is {room_mm} wide where the latch is, and its plates are {wide_mm}: they come off "
    "the face or over each other.",
    "latch_screws_off": "Screws {apart_mm} apart are off a plate {wide_mm} wide.",
    "brackets_meet": "Brackets of {long_mm} meet on side {side}, which is {run_mm} wide.",
    "bracket_high": "Brackets {high_mm} high reach past the {room_mm} there are for them.",
    "bracket_screws_cross": "Screws of {screw_mm}, {out_mm} from the arris, meet those of the next side in the "
    "corner: {deepest_mm} at the most.",
    "fillets_cannot_be": "Fillets {thick_mm} thick cannot be mitered round the inside.",
    "fillets_low": "The fillets reach {low_mm} under the floor: there are {room_mm} from it to what they hang from.",
    "fillets_meet": "The fillets reach {low_mm} down into what stands in the box.",
    "fillets_liner": "The fillets lie where the liner stands.",
    "fillets_narrow": "Fillets {thick_mm} thick narrow the mouth: what stands against a wall comes out tilted, or not "
    "at all.",
    "fillets_narrow/dividers": "Fillets {thick_mm} thick come over the dividers' ends: those go in before them and "
    "stay.",
    "tray_shallow": "A tray with a bottom {bottom_mm} thick has no walls to speak of.",
    "tray_cannot_be": "A tray with walls {thick_mm} thick cannot be mitered inside this box.",
    "tray_on_nothing": "A tray lies on a liner's edge or on fillets, and there are neither.",
    "tray_meets": "What stands in the box reaches {over_mm} over what the tray lies on.",
    "tray_high": "The tray stands {over_mm} too high: there are {room_mm} over what it lies on.",
    "tray_falls": "The tray bears on {bears_mm} each side: it drops off.",
    "tray_mouth": "The tray is {over_mm} too wide on a side to come in through the mouth.",
    "inner_blocks": "Corner blocks stand where {what} would run round.",
    "inner_opening": "Opening {opening} looks onto {what}.",
    "ring_misses/short": "Side {side} is {is_mm}, {off_mm} shorter than planned: with the others as they are the ring "
    "misses by {miss_mm}.",
    "ring_misses/long": "Side {side} is {is_mm}, {off_mm} longer than the others want: the ring misses by {miss_mm}. "
    "Cut it to {to_mm}.",
    "inlay_sunk": "A pocket of {deep_mm} leaves nothing of an inlay {thick_mm} thick to plane flush.",
    "inlay_deep": "The inlay’s pocket leaves {left_mm} of wood under it.",
    "handle_no_wedge": "The bevels cut off no wedge that makes a handle: it would be {high_mm} high.",
    "handle_long": "A handle of {length_mm} is longer than the offcut it comes from, {long_mm}.",
    "handle_screw_short": "Screws of {screw_mm} through {thick_mm} hold by nothing.",
    "strip_without_lid": "A strip between body and lid wants a lid sawn free over it.",
    "strip_cannot_be": "A strip {thick_mm} high cannot be mitered round this ring.",
    "two_lids": "A lid is sawn free, and another lies on the box: one of them is enough.",
    "top_under_lid": "The top panel closes the box under its lid: nothing could be put in.",
    "lid_lies_loose": "Nothing keeps this lid in its place until it is hinged. A plug under it would.",
    "cut_already/again": "The design has changed since the box was begun. Steps that are done and are to be cut once "
    "more: {again:0}. Fit, Cut already, says which.",
    "cut_already/anew": "The design has changed since the box was begun. Steps that are done and no longer serve, so "
    "that their pieces are made anew: {anew:0}. Fit, Cut already, says which.",
    "cut_already/both": "The design has changed since the box was begun. Steps that are done and are to be cut once "
    "more: {again:0}; that no longer serve, so that their pieces are made anew: {anew:0}. Fit, Cut already, says "
    "which.",
    "lid_no_grip": "It lies in its rabbet with nothing to lift it by: a hole for a finger, or for a pull.",
    "lid_hole_wide": "In a lid {lid_mm} wide a hole of {hole_mm} leaves little of it.",
    "gable_needs_rectangle/ring": "A roof on two gables wants a rectangle: this ring has no two walls that rise to "
    "points across from each other. Lay a flat lid on it, or take another.",
    "gable_needs_rectangle/leans": "A roof on two gables wants upright walls, and these lean. Lay a flat lid on it, "
    "or stand them upright.",
    "gable_leaves_no_wall": "The points rise {rise_mm} over the eaves, which leaves {wall_mm} of wall over the floor. "
    "Make the box higher or the roof flatter.",
    "lid_cannot_slide": "A lid cannot slide out over side {side}: the sides beside it come together there, and it "
    "would have to pass where it is narrower than itself.",
    "plug_no_room": "Only {room_mm} of room is left for the plug. Leave it out.",
    "overhang_one": "With {sides} sides none lies across from the front, so the lid overhangs the front alone. Let it "
    "overhang all sides.",
    "lid_knocks_loose": "What stands in the box has {play_mm} of play under the plug: thrown about, it knocks the lid "
    "off. Keep it under 1 mm.",
    "split_leaves_none": "The fixed part covers {fixed_mm} of {across_mm}: one of the two parts would be nothing to "
    "hold.",
    "false_floor_alone": "A floor over a hidden compartment wants a bottom under it.",
    "false_floor_small": "There is no room for the strips and the finger hole of a false floor.",
    "false_floor_high": "Over the false floor {room_mm} of room is left. Lower it, or leave it out.",
    "false_floor_mouth": "The walls lean in: the false floor is {over_mm} wider than the mouth it must pass.",
    "false_floor_dividers": "Dividers stand in dadoes from the bottom up, where the false floor lies. Leave out one "
    "of them.",
    "false_floor_blocks": "Corner blocks stand where the false floor and its strips lie. Leave out one of them.",
    "false_floor_shut/fillets": "Fillets {thick_mm} thick come over the false floor, which has {play_mm} of play: it "
    "does not lift out past them. Leave out one of them.",
    "false_floor_shut/lining": "The walls' lining, {thick_mm} thick, stands on the false floor, which has {play_mm} of "
    "play: it does not lift out past it. Leave out one of them.",
    "false_floor_shut/liner": "The liner stands on the false floor and comes out before it: it stays without glue.",
    "false_floor_no_grip": "It has no hole to lift it by: hidden well, and hard to get at.",
    "ledge_narrow": "With its play the false floor lies {bears_mm} on its strips. Make them wider.",
    "panel_rolled_in": "Rolling up leaning sides brings the last groove to the {panel} at a slant: {rises_mm} over its "
    "depth, with {fit_mm} of fit. Put the last side on straight, or pull the sides together with a band.",
    # --- wood through the seasons
    "seasons_out_of_order": "The day it is made should lie between the driest and the dampest.",
    "wood_unknown": "What the {panel} is made of is not said: how it moves is not reckoned.",
    "wood_unknown/named": "How far {wood} moves is not known here: add it to your woods, or reckon with one that is "
    "like it. What the {panel} does is not told.",
    "wood_unknown/ring": "How far {wood} moves is not known here, and the grain of the sides runs upright: what ring "
    "and panels do is not told.",
    "panel_swells": "At its dampest the {panel} wants {needed_mm} of play on each side and has {play_mm}: it would "
    "press the corners open.",
    "panel_swells/lid": "At its dampest the lid wants {needed_mm} of play on each side and has {play_mm}: it would "
    "stick.",
    "loose_swells": "At its dampest the {panel} wants {needed_mm} of room on each side and has {play_mm}: it would "
    "stick.",
    "panel_shrinks_out": "At its driest only {held_mm} of the {panel} is still held in what is {depth_mm} deep: it "
    "may fall out.",
    "applied_moves": "Glued on flat, a solid {panel} moves {moves_mm} through the year across its grain, and the "
    "sides do not: it splits, or breaks the glue.",
    "left_aside/leaves": "The {panel} is glued up of segments: that it is to be of two leaves is left aside.",
    "left_aside/segments": "The {panel} is glued up of segments: its strips are left aside.",
    "left_aside/leaves_strips": "The {panel} is glued up of two leaves: its strips are left aside.",
    "left_aside/sheet_leaves": "The {panel} is glued up of two leaves of the sides' board: it is not of sheet stock.",
    "left_aside/grain_leaves": "The {panel} is glued up of two leaves, their grain along side A as their joint is.",
    "left_aside/sheet": "The {panel} is cut from sheet stock: its strips are left aside.",
    "left_aside/whole": "The {panel} is cut from boards as wide as it is: its strips are left aside.",
    "no_bottom": "Nothing is under what stands in this box. Let in a bottom.",
    "lid_open": "Nothing is let into the top: the lid that is sawn free is an open frame. Let in a top, or saw no lid "
    "free.",
    "sealed": "Bottom and top panel are both glued in and no lid is sawn free: nothing opens this box. Saw a lid "
    "free, or leave out the top.",
    "sealed+things": "What it holds would have to go in before it is glued up.",
    "sealed+liner": "The liner would have to go in before it is glued up.",
    "sealed+tray": "The tray would have to go in before it is glued up.",
    "sealed+dividers": "The dividers would have to go in before it is glued up.",
    "liner_holds_lid_up": "The liner stands {over_mm} higher than the box once the lid is freed: the lid will sit on "
    "the liner and not on the body. Make the liner lower.",
    "lip_wedges": "The walls lean, and the liner with them: it stands {out_mm} out of the body and is {over_mm} too "
    "wide for the lid to come down over it. Leave more room round it, or make it lower.",
    "liner_holds_lid_up/slides": "The liner stands {over_mm} higher than the underside of the lid, which cannot slide "
    "in over it. Make the liner lower.",
    "liner_holds_lid_up/closed": "The liner stands {over_mm} higher than the underside of what closes the box: that "
    "will sit on the liner. Make the liner lower.",
    "contents_too_tall": "The contents stand {tall_mm} high and there is room for {clear_mm} above the bottom, once "
    "the lid is freed: they stand {over_mm} proud. Make the box higher.",
    "contents_do_not_fit": "The contents with their play reach {over_mm} into a wall. Make the ring larger or arrange "
    "them otherwise.",
    "divider_among_things": "Where divider {dividers} stands there are things in its way. Give the compartments sizes "
    "that suit them, or take the dividers out.",
    "divider_among_things/many": "Where divider {dividers} and {others} more stand there are things in their way. "
    "Give the compartments sizes that suit them, or take the dividers out.",
    "compartment_vanishes": "The dividers and compartments given are {over_mm} more than there is room inside. Use "
    "fewer or thinner dividers, or smaller compartments.",
    "divider_meets_corner": "Divider {divider} runs into corner {corner}: a dado there would cut its joint. Move it "
    "{move_mm} or more to one side, or take another number of dividers.",
    "dividers_cross_in_wall": "Dividers {divider} and {other} cross within a wall, where they cannot be halved. Move "
    "one of them, or take another number of dividers.",
    "divider_meets_corner+likewise": "({likewise} more likewise.)",
    "dividers_cross_in_wall+likewise": "({likewise} more likewise.)",
    "contents_too_tall/closed": "The contents stand {tall_mm} high and there is room for {clear_mm} above the bottom: "
    "they stand {over_mm} proud. Make the box higher.",
    "divider_too_tall/closed": "The dividers stand {over_mm} higher than there is room. Make them lower.",
    "divider_too_tall": "The dividers stand {over_mm} higher than there is room once the lid is freed. Make them "
    "lower.",
    "dado_wall_thin": "Dadoes {dado_mm} deep leave {left_mm} of wall. Keep at least half: shallower dadoes, thinner "
    "dividers or thicker walls.",
    "dado_wall_thin+slanted": "(A divider that meets side {side} at a slant goes in deeper by one edge.)",
    "dado_past_stop": "A divider meets side {side} {from_square_deg} from square, past the saw's stop at {stop_deg}. "
    "Chop that dado or rout it along a guide, or move the divider to a wall that it meets more squarely.",
    # --- openings and feet
    "opening_no_mate": "Opening {opening} is to be in the side across too, and a ring with an odd number of sides has "
    "none there. Cut it in one side.",
    "opening_off_side": "Opening {opening} in side {side} reaches past {what}. Move it or make it smaller.",
    "opening_near_edge": "Opening {opening} in side {side} leaves {wood_mm} of wood to {what}: it breaks out. Move it "
    "or make it smaller.",
    "opening_meets": "Opening {opening} in side {side} cuts into {what}. Move it or make it smaller.",
    "opening_thin_wood": "Opening {opening} in side {side} leaves {wood_mm} of wood to {what}: it breaks out. Move it "
    "or make it smaller.",
    "openings_meet": "Openings {opening} and {other} in side {side} lie too near each other: the wood between them "
    "breaks out. Move one of them.",
    "feet_under_house": "A house stands on its floor, and these feet go under a ring that lies flat. Leave them out.",
    "feet_beside_panel": "The bottom stands {proud_mm} out of the sides, and the feet lie beside it for {beside_mm} "
    "of their {wide_mm}: there they touch nothing. Set them further in, under the panel.",
    "feet_meet": "Feet {size_mm} long run into each other, where a side is {run_mm} at the foot. Make them shorter.",
    "foot_slim": "A block with a corner of {interior_deg} is only {wide_mm} wide and tips over. Mitered pairs stand "
    "better under such corners.",
    "foot_too_thick": "The miter of these feet takes {takes_mm} of their {size_mm}: nothing is left inside. Make them "
    "thinner or longer.",
    "foot_no_offcut": "The bevels cut off no wedges that feet could be made of. Make blocks, or cut the bevels with a "
    "tilted blade, square first.",
    "foot_low": "The bevels' offcuts make feet only {high_mm} high: slivers that split as they are glued. Make "
    "mitered pairs or blocks.",
    "feet_unlike": "The bevels' offcuts differ in height by {differ_mm}: the box would rock. Make blocks, or plane "
    "the wedges alike.",
    # --- keys
    "keys_no_room": "There is room for {placed} of {asked|key|keys} a corner between the edges and what else is cut "
    "there. Use fewer or thinner keys, or smaller margins.",
    "key_breakthrough": "A slot {depth_mm} deep breaks through inside, where the corner is {breakthrough_mm} deep. "
    "Make it at most {most_mm}.",
    "key_breakthrough/none": "A slot {depth_mm} deep breaks through inside, where the corner is {breakthrough_mm} "
    "deep: there is no room for a key. Take thicker sides, or no keys.",
    "key_wall_thin": "The slot leaves {left_mm} of wood before the inside; keep {keep_mm}.",
    "key_slots_meet": "The slots at both corners of side {side} take {taken_mm} of its face, and it is {side_mm} "
    "long: they meet and cut it through. Make them shallower; so many short sides are better held by splines in the "
    "miters.",
    "key_outside_box": "The key at {height_mm} reaches past the edge of a box {box_mm} high. Move it in.",
    "key_meets_lid_line": "The key at {height_mm} runs {overlap_mm} into the lid line: the saw that frees the lid "
    "would cut the key. Move it, or let the keys be spread.",
    "key_meets_groove": "The key at {height_mm} runs {overlap_mm} into the groove: its slot would open into the "
    "panel's groove. Move it, or let the keys be spread.",
    "key_near_edge": "The key at {height_mm} runs {overlap_mm} into the {edge} edge: short grain there splits off. "
    "Move it, or let the keys be spread.",
    "key_meets": "The key at {height_mm} runs {overlap_mm} into {what} or its margin. Move it, or let the keys be "
    "spread.",
    "keys_overlap": "The keys at {low_mm} and {high_mm} overlap. Move one of them.",
    "keys_close": "Between the keys at {low_mm} and {high_mm} only {between_mm} of wood is left; keep {least_mm}. "
    "Move one of them.",
    "keys_not_mirrored": "Not all keys found room in mirrored pairs: {settings|fence setting is|fence settings are} "
    "needed.",
    "keys_near": "So many keys leave only {between_mm} of wood between two of them; {wanted_mm} is better. Use fewer "
    "keys or thinner ones.",
    "keys_no_lid": "No key found room in the lid: every one is in the body.",
    "keys_not_spaced": "Not every key could stand {spacing_mm} from the next: some gave way to what is there, or were "
    "left out.",
    "veneer_no_saw": "Nothing in the shop saws a cut as thin as {wide_mm}. Add a fine saw, or use straight keys.",
    "veneer_fit": "The veneer is {wide_mm:4} thick and {cutter} cuts {kerf_mm:4}: the keys would sit loose. Use "
    "veneer as thick as the cut, or a thinner blade.",
    "veneer_fit/tight": "The veneer is {wide_mm:4} thick and {cutter} cuts only {kerf_mm:4}: the keys would not go in. "
    "Use veneer as thick as the cut, or sand it thinner.",
    "dovetail_no_bit": "The shop has no dovetail bit of {wide_mm} and {bit_deg}. Use one that is there, or add it.",
    "dovetail_neck": "So deep, a dovetail {wide_mm} wide at its floor keeps only {face_mm} at the arris and breaks "
    "off there. Make it less deep, or use a wider bit.",
    "key_level_unlike": "At {corner} the faces do not lean alike: no tip of the cradle lays a slot level there. Let "
    "the keys lie square to the corner.",
    "key_tipped_far": "At {corner} the cradle would be tipped by {tip_deg}: too far to hold the box, and the slot's "
    "floor runs out at the arris. Slant the keys less.",
    "key_tipped_far/steep": "At {corner} the cradle is tipped by {tip_deg}, and the box would slide in it: clamp it to "
    "the cradle, or slant the keys less.",
    # --- splines
    "spline_too_deep": "A groove {depth_mm} deep comes nearer than {keep_mm} to the face; here it may go {most_mm} "
    "deep. Make it shallower, or nearer to the inside.",
    "spline_too_deep/none": "A groove {depth_mm} deep comes nearer than {keep_mm} to the face, and so would any other "
    "here. Set it nearer to the inside, or leave it out.",
    "spline_near_inside": "The groove leaves {left_mm} of wood before the inside face; keep {keep_mm}. Move it "
    "further out.",
    "spline_past_joint": "The joint is {joint_mm} wide, and the groove would end {needs_mm} from its inside arris. "
    "Use thinner splines, or one.",
    "splines_close": "The two grooves lie {apart_mm} apart, middle to middle: keep {least_mm}, so that wood is left "
    "between.",
    "spline_short": "Between its two stops only {length_mm} is left for a spline. Stop it less far in, or let it run "
    "through.",
    "spline_stop_saw": "A groove that stops short cannot be sawn: the blade leaves a long ramp. Rout it, or let it "
    "run through.",
    "spline_meets": "The spline's groove opens into {what} of the side. Stop it short of that, or leave the splines "
    "out.",
    "segment_ring_open": "The {panel} is a ring of segments, and its hole, {hole_mm} across the flats, stays open. "
    "Glue it up of triangles, or close it with a panel of your own.",
    "segment_spline_thick": "Splines {thick_mm} thick leave too little of a {panel} {panel_mm} thick. Make them "
    "thinner.",
    "segment_spline_short": "Between the outside and where the grooves of a segment's edges meet only {length_mm} is "
    "left for a spline in the {panel}. Make the grooves less deep, or leave them out.",
    # --- corner blocks
    "corner_block_meets/things": "What the box holds stands where the corner block at {corner} is. Leave out the "
    "blocks, or hold less.",
    "corner_block_meets/things_under": "The corner block at {corner} comes over what the box holds: that comes out "
    "tilted, or not at all.",
    "corner_block_meets/dividers": "A divider stands where the corner block at {corner} is. Leave out one of them.",
    "corner_block_short": "Between floor and rim only {room_mm} is left for a corner block. Leave them out.",
    "corner_block_liner": "A liner stands where the corner blocks are. Leave out one or the other.",
    "corner_block_wide": "The blocks at both ends of a wall that is {clear_mm} clear inside would meet. Make them "
    "smaller.",
    "corner_block_small": "A leg of {leg_mm} leaves nothing of the block once its point is planed off.",
}  # fmt: skip
