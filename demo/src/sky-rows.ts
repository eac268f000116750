/**
 * Project SKY as a list. `# name` and `## name` are WBS nodes, `## lane name` a lane; other lines are activities:
 *   number | name | duration | calendar | predecessors | more
 * Calendars: M mainland, I island, B supply boat, N night commissioning, C curing. Milestones have `start` or `finish`
 * for a duration, margins `margin 15d`, levels of effort `effort`. More: cost=..., constraint words, deadline=...
 */
const level = (n: number, code: number, name: string, before: string, sizes: [number, number, number, number, number]): string => `
## lane Level ${n}, ${name}
${code} | Strip and rake out joints, level ${n} | ${sizes[0]}d | I | ${before} | cost=${sizes[0] * 1450}
${code + 5} | Repoint in lime, level ${n} | ${sizes[1]}d | I | ${code}ss+4d, ${code}ff+3d | cost=${sizes[1] * 1680}
${code + 10} | Cure lime, level ${n} | ${sizes[2]}d | C | ${code + 5} |
${code + 15} | Floor and stair, level ${n} | ${sizes[3]}d | I | ${code + 10}fs-2d, 245 | cost=${sizes[3] * 1900}
${code + 20} | Electrics, level ${n} | ${sizes[4]}d | I | ${code + 15}ss+3d, 255 | cost=${sizes[4] * 1200}
${code + 22} | Lime plaster, level ${n} | ${sizes[4] + 2}d | I | ${code + 20}, ${code + 15} | cost=${(sizes[4] + 2) * 1350}`;

export const skyRows = `
# Consents and design
10 | Project start | start | M | |
15 | Measured survey of the tower | 12d | M | 10 | cost=14800
20 | Structural appraisal | 10d | M | 15 | cost=11200
25 | Ecology survey, nesting birds | 20d | M | 10 | cost=6400
30 | Concept design | 15d | M | 15fs-4d | cost=21000
35 | Heritage consent application | 4d | M | 30 | cost=3900
40 | Heritage consent decision | 60d | M | 35 |
45 | Marine licence for landings | 28d | M | 30, 25 | cost=5200; address=https://licences.example.org/skerry
50 | Dark-sky lighting study | 10d | M | 30ss+8d | cost=7600
55 | Detailed design, tower | 22d | M | 30, 20 | cost=38500
60 | Detailed design, dome | 24d | M | 30, 50 | cost=33000
65 | Detailed design, power | 16d | M | 55ss+10d | cost=18700
70 | Consents in place | finish | M | 40, 45 |
# Procurement
100 | Tender, tower works | 12d | M | 30 | cost=4200
105 | Award, tower works | finish | M | 100 |
110 | Order copper sheet and lime | 5d | M | 105 | cost=61000
115 | Copper and lime delivered to harbour | 20d | M | 110 |
120 | Order dome steel | 6d | M | 60ff+2d | cost=88000
125 | Order mirror blank | 8d | M | 30 | cost=142000
130 | Mirror blank cast and annealed | 85d | M | 125 |
135 | Order telescope mount | 6d | M | 125ss+5d | cost=176000
140 | Telescope mount made | 150d | M | 135 |
145 | Order spectrograph and cameras | 8d | M | 60 | cost=98000
150 | Spectrograph and cameras made | 130d | M | 145 |
155 | Order batteries and solar frames | 6d | M | 65 | cost=54000
160 | Batteries and solar frames made | 48d | M | 155 |
165 | Batteries and frames at harbour | finish | M | 160 |
# Access and island logistics
200 | Landing stage inspection | 4d | M | 10 | cost=3100
205 | Repair landing stage | 9d | I | 200, 25 | cost=24500
210 | First boat landing | start | B | 205 |
215 | Carry site huts and generator | 4d | B | 210 | cost=9600
220 | Set up island camp | 7d | I | 215 | cost=12800
225 | Hoist and rope way | 8d | I | 220ss+3d | cost=17400
230 | Carry lime and scaffold, first loads | 5d | B | 225ss+2d, 205 | cost=8800
235 | Carry copper sheet | 3d | B | 115, 230 | cost=5400
240 | Carry batteries and frames | 4d | B | 165, 230 | cost=7200
245 | Carry timber and stair parts | 4d | B | 230 | cost=6900
250 | Carry glass and joinery | 4d | B | 245, 860ss+20d | cost=5900
255 | Carry cable and boards | 2d | B | 230 | cost=3600
260 | Ship berth and crane booking | 3d | M | 55 | cost=2400
# Strip-out and enabling
300 | Make tower safe | 5d | I | 220 | cost=8200
305 | Remove old light and machinery | 7d | I | 300 | cost=15600
310 | Asbestos survey and removal | 6d | I | 300 | cost=13900
315 | Scaffold inside the tower | 8d | I | 310, 230 | cost=22600
320 | Scaffold outside, lower lift | 8d | I | 315ss+3d | cost=24800
325 | Scaffold outside, upper lift | 7d | I | 320 | cost=21400
330 | Temporary roof over the lantern | 4d | I | 325, 305 | cost=9700
334 | Temporary lights in the tower | 50d | I | 315, 830sf | cost=2600
335 | Tower handed to restoration | finish | I | 315, 70, 105 |
# Tower restoration
${level(1, 400, 'store', '335, 320', [12, 24, 28, 12, 8])}
${level(2, 430, "keeper's room", '400', [12, 21, 28, 11, 8])}
${level(3, 460, 'watch room', '430', [11, 20, 28, 11, 7])}
${level(4, 490, 'service room', '460', [10, 18, 28, 10, 7])}
${level(5, 520, 'gallery', '490, 325', [10, 16, 28, 9, 6])}
## Lantern ring
550 | Survey ring and anchor bolts | 4d | I | 330 | cost=5600
555 | Cut out rusted ring beam | 18d | I | 550, 305, 520 | cost=26400
560 | Set new ring beam | 14d | I | 555, 525 | cost=41800
565 | Cure, ring beam grout | 21d | C | 560 |
570 | Copper flashing | 9d | I | 565, 235 | cost=19300
575 | Ring ready for dome | finish | I | 565, 530 |
# Dome
600 | Dome steel delivered to yard | 25d | M | 120 |
605 | Fabricate dome base ring | 32d | M | 600, 60 | cost=47000
610 | Fabricate ribs and shutters | 70d | M | 605ss+12d | cost=86000
615 | Clad dome in copper | 34d | M | 610ff+8d, 610ss+25d | cost=39000
620 | Shutter drives and trial | 14d | M | 615 | cost=16500
625 | Load-out trial at the yard | 3d | M | 620 | cost=8700
630 | Dome ready to sail | finish | M | 625, 260 |
635 | Margin before the sea lift | margin 15d | I | 575, 630 |
640 | Sea lift and set down | 2d | I | 635, 260 | cost=118000; colour=sea; start not after 2027-04-07
645 | Bolt down and seal | 9d | I | 640 | cost=22300
650 | Commission shutter drives | 6d | I | 645 | cost=9100
655 | Take down temporary roof | 3d | I | 640fs+1d, 330 | cost=4200
660 | Dome weathertight | finish | I | 645, 650, 655, 570 |
# Telescope and instruments
700 | Rough grind mirror | 25d | M | 130 | cost=28000
705 | Polish and figure mirror | 95d | M | 700 | cost=64000
710 | Coat mirror | 6d | M | 705 | cost=9800
715 | Carry mount and pier parts | 3d | B | 140, 660fs-6d | cost=8800
720 | Cast telescope pier | 6d | I | 645ss+2d | cost=14200
725 | Cure telescope pier | 14d | C | 720 |
730 | Erect telescope mount | 8d | I | 725, 715, 660 | cost=21700
735 | Carry mirror and instruments | 2d | B | 710, 150, 730ss+4d | cost=6400
740 | Install mirror and cell | 6d | I | 735, 730 | cost=13800
745 | Install spectrograph | 6d | I | 740ss+3d, 735 | cost=11900
750 | Install cameras and control | 6d | I | 745ss+2d | cost=12600
755 | Telescope assembled | finish | I | 740, 745, 750 |
# Power and storage
800 | Set out solar frames | 4d | I | 240, 220 | cost=3900
805 | Fix solar frames | 10d | I | 800 | cost=17200
810 | Battery room blockwork | 9d | I | 240, 410 | cost=14600
815 | Install batteries | 6d | I | 810 | cost=12900
820 | Cable route to the tower | 9d | I | 805ss+4d | cost=10800
825 | Inverters and switchboard | 7d | I | 815, 820 | cost=16300
830 | Power on the island | finish | I | 825, 420 |
835 | Dark-sky path lighting | 8d | I | 830, 50 | cost=9200
# Visitor rooms
860 | Make joinery and displays | 60d | M | 55, 50 | cost=52000
865 | Stone floor, visitor rooms | 10d | I | 422, 452 | cost=21400
870 | Windows and doors | 8d | I | 250, 865ss+4d | cost=17800
875 | Fit displays | 12d | I | 870, 860, 865 | cost=24600
880 | Ramp and handrails | 9d | I | 870ss+2d | cost=13300
885 | Fire and safety systems | 8d | I | 830, 865 | cost=11700
890 | Visitor rooms ready | finish | I | 875, 880, 885 |
# Night commissioning
900 | Align optics under the sky | 18d | N | 755, 830 | cost=15200
905 | First light | finish | N | 900 | deadline=2027-06-30
910 | Pointing and tracking tests | 15d | N | 905 | cost=12100
915 | Spectrograph calibration | 20d | N | 910ss+3d, 745 | cost=13400
920 | Remote operation trial | 12d | N | 910, 915ss+4d | cost=7600
925 | Observatory accepted | finish | N | 915, 920 |
# Opening
950 | Train guides and boat crew | 8d | I | 890, 925fs-20d | cost=6800
955 | Safety inspection | 2d | M | 890, 835, 655 | cost=2900
960 | Trial nights with visitors | 12d | N | 925, 950, 955 | cost=5300
965 | Strike camp and make good | 8d | I | 890, 660 | cost=9400
970 | Margin before public opening | margin 20d | M | 960, 965 |
980 | Public opening | finish | M | 970 | finish not after 2027-09-10
990 | Site management | effort | M | 10ss, 980ff |
`;
