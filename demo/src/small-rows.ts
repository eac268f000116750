/** The two smaller projects, in the form of sky-rows.ts. */
export const slipRows = `
# Design and licence
10 | Start | start | M | |
12 | Diver survey of the slip | 4d | M | 10 | cost=7800
14 | Repair design | 15d | M | 12 | cost=12400
16 | Marine licence | 20d | M | 14fs-5d | cost=2600
18 | Licence granted | finish | M | 16 |
# Procurement
20 | Order precast slabs | 4d | M | 14 | cost=38000
22 | Precast slabs made | 40d | M | 20 |
24 | Order winch and cable | 5d | M | 14 | cost=21000
26 | Winch made and tested | 60d | M | 24 |
28 | Slabs at the harbour | finish | M | 22 |
# Slip
30 | Cofferdam, first half | 8d | I | 14, 10 | cost=19500
32 | Pump out and clean | 4d | I | 30 | cost=6200
34 | Break out broken slabs, lower half | 9d | I | 32 | cost=11800
36 | Trim and consolidate bed, lower half | 6d | I | 34ss+4d, 34 | cost=8400
38 | Anchor bars, lower half | 5d | I | 36 | cost=6900
40 | Underpin the quay wall | 12d | I | 34 | cost=24600
42 | Cure underpinning | 14d | C | 40 |
44 | Lay slabs, lower half | 8d | I | 38, 42, 28, 18 | cost=17300
46 | Grout and cure, lower half | 7d | C | 44 |
48 | Move cofferdam to second half | 6d | I | 46 | cost=9800
50 | Break out, upper half | 7d | I | 48 | cost=9300
52 | Trim and consolidate bed, upper half | 5d | I | 50ss+3d, 50 | cost=7100
54 | Anchor bars, upper half | 4d | I | 52 | cost=5600
56 | Lay slabs, upper half | 7d | I | 54 | cost=15400
58 | Grout and cure, upper half | 7d | C | 56 |
60 | Slip whole | finish | I | 58 |
# Winch
62 | Winch base, formwork | 4d | I | 40 | cost=4900
64 | Winch base, pour | 1d | I | 62 | cost=5200
66 | Cure winch base | 14d | C | 64 |
68 | Carry winch by boat | 2d | B | 26, 66 | cost=3800
70 | Set winch and cable | 5d | I | 68 | cost=8700
72 | Electrics for the winch | 6d | I | 70ss+2d | cost=7900
74 | Load test | 2d | I | 72, 70, 60 | cost=3100
# Finish
76 | Fenders and ladders | 6d | I | 60 | cost=9900
78 | Navigation marks | 3d | I | 60 | cost=4100
80 | Remove cofferdam | 4d | I | 58 | cost=5800
82 | Clear the site | 3d | I | 80, 76, 78 | cost=2400
84 | Harbour board inspection | 1d | M | 82, 74 | cost=900
86 | Margin before reopening | margin 8d | I | 84 |
88 | Slip reopened | finish | I | 86 | finish on 2027-06-25
90 | Harbour liaison | effort | M | 10ss, 88ff |
`;

export const trailRows = `
# Trail
10 | Start on the island | start | I | |
12 | Mark out the trail | 3d | I | 10 | cost=1200
14 | Clear and drain, north side | 8d | I | 12 | cost=6400
16 | Clear and drain, south side | 9d | I | 14ss+4d | cost=7100
18 | Carry gravel and boards | 5d | B | 12 | cost=4800
20 | Lay gravel, north side | 9d | I | 14, 18 | cost=8200
22 | Boardwalk over the wet ground | 12d | I | 16, 18 | cost=14600
24 | Steps to the shore | 6d | I | 20 | cost=5900
26 | Trail open to walkers | finish | I | 22, 24 |
# Hide
40 | Foundations for the hide | 5d | I | 18 | cost=4600
42 | Cure foundations | 7d | C | 40 |
44 | Frames made on the mainland | 25d | M | 10 | cost=16800
46 | Carry frames | 2d | B | 44 | cost=2400
48 | Hide frames up | 4d | I | 46, 42 | cost=5200
50 | Roof with turf | 6d | I | 48 | cost=4300
52 | Cladding and windows | 7d | I | 48ss+2d, 48 | cost=6100
54 | Benches and scopes | 3d | I | 52, 50 | cost=2700
56 | Hide ready | finish | I | 54 |
# No work near nests
60 | Nesting season, north side closed | 40d | C | 10fs+30d |
62 | Low fence along the cliff | 7d | I | 60 | cost=3900
# Signs and opening
70 | Write and draw signs | 20d | M | 10 | cost=5600
72 | Make signs | 12d | M | 70 | cost=4400
74 | Carry signs | 1d | B | 72 | cost=700
76 | Put up signs | 3d | I | 74, 26 | cost=1100
78 | Safety walk | 1d | I | 76, 56, 62 | cost=400
80 | Margin before opening day | margin 5d | I | 78 |
82 | Opening day | finish | I | 80 | finish on 2027-08-06
84 | Warden on the island | effort | I | 10ss, 82ff |
`;
