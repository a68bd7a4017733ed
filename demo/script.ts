/**
 * The Night Ferry, a chamber musical in two acts, written for this demo. `[LX n]` stands before the word on which a cue
 * is called; it is taken out when the script is taken in, and the call stays.
 */
export const NIGHT_FERRY_SCRIPT = `THE NIGHT FERRY

A chamber musical in two acts

([LX 1]House open. Lamps along the quay, a rope, three trunks, nobody.)

([LX 2]Clearance. The house goes. Water, in the dark.)

- 1 -

ACT ONE

Scene 1 — The quay

THE MATE
[LX 3]Seven lamps went over the water,
six came back with the rain.
Count them now, count them after,
nobody counts on a train.

LISS
Is there room for one more trunk?

THE MATE
For the trunk, yes. Have you a name?

([LX 4]A bell, close by.)

LISS
Only the one I'm leaving with.

THE MATE
Then write it small. The book is nearly full.

- 2 -

COMPANY
Oh, [LX 5]all aboard, all aboard,
while the fjord is holding its breath;
there's a lamp for every window
and a mile for every debt.

PURSER
Nobody asks you why, at night.
They only ask you to mind the step.

(The deck shudders. Below, iron wakes.)

THE MATE
Stern line! Bow line! [LX 6]Cast off!

- 3 -

Scene 2 — The engine room

(Below. Steam, and a red eye that opens and shuts.)

THE STOKER
She eats a ton before the lighthouse,
she drinks the dark and calls it tea.
I feed her iron, I feed her Sunday,
she has never once fed me.

STOKERS
Down and up and down and over,
one for the owner, one for the sea.

THE STOKER
Who let the passenger down here?

LISS
The stairs did.

THE STOKER
The stairs have no manners. Hold this.

LISS
What is it?

THE STOKER
The part that gets hot.

- 4 -

Scene 3 — Open water

(The noise falls away. The boat is small now, and the sky is not.)

THE MATE
[LX 8]Open water. From here she steers herself.

OLD HANNE
From here they all say that.

COMPANY
Wide, wide, and nothing beside us,
wide, and the stars have gone in;
somebody's crossing to somewhere they've come from,
somebody's going to begin.

OLD HANNE
Are you beginning or coming from?

LISS
I thought one did both.

OLD HANNE
At your age one does neither. Sit.

- 5 -

Scene 4 — The skerry

THE MATE
[LX 9]There! One on the port side. Watch it find us.

(A beam goes over the deck, and over it again.)

LISS
Does somebody live there?

THE MATE
Somebody did. He painted the door every spring, white, so that he could see it was his.

LISS
And who paints it now?

THE MATE
The spray.

- 6 -

Scene 5 — The purser's table

PURSER
[LX 10]Page one. We begin with the name.

LISS
You have it.

PURSER
I have the small one. A ledger likes the large one. Purpose of crossing?

LISS
Weather.

PURSER
Weather is what we have. I need what you have.

LISS
A trunk, a letter that is not mine, and a coat I owe for.

PURSER
I can put that down as furniture.

COMPANY
Put it down, put it down, put it down in the ledger,
everything floats till you write what it weighs.

- 7 -

Scene 6 — Fog

THE MATE
[LX 11]Slow her. Slow her! Ears, everybody.

(Fog comes aboard like a relative: without knocking.)

COMPANY
Where is the end of the deck?
Where is the hand on the rail?
White as the side of a letter,
soft as the end of a tale.

OLD HANNE
When I was a girl the fog had a bell in it. Now it has opinions.

THE STOKER
(From below.)
Is it still there, up there?

THE MATE
What?

THE STOKER
Anything.

- 8 -

Scene 7 — The letter

LISS
[LX 12]Dear Anders. You will not know this hand.

(She reads as one carries a full cup.)

LISS
The lamp you left is burning still, although I mean to let it;
I trim the wick on Saturdays, on Sundays I regret it.
If you should ever cross by night and see it from the water,
don't wave. I have the curtains drawn. I have, I have a daughter.

[LX 12.5]Yours. And then there is no name at all.

OLD HANNE
There is always a name. People just run out of ink before they come to it.

- 9 -

Scene 8 — The saloon

THE STOKER
If nobody dances the boilers get sad. [LX 13]One, two!

(The band strikes up: a squeeze-box, a comb, a bucket.)

COMPANY
One for the ferry and two for the fare,
three for the girl with the salt in her hair,
four for the fellow who hasn't a prayer,
and round, and round, and round!

PURSER
Madam. [LX 14]Take my hand. It is clean, I have been counting with the other.

OLD HANNE
I danced with a purser once. He added me up.

- 10 -

(They waltz. The lanterns over the deck have started to keep time.)

LISS
You are not looking at the water.

THE MATE
I look at it all week.

LISS
What does it do when you don't?

THE MATE
It waits. Make a wish and [LX 15]blow.

(She blows. A lamp goes out, and it was not the one she blew at.)

OLD HANNE
Seven went over.

- 11 -

Scene 9 — Overboard

THE STOKER
[LX 16]Look! There, there, off the rail!

(Everything stops except the engine.)

COMPANY
A coat on the water, a coat on the water,
arms out as if it could swim;
whose is the coat on the water, the water,
and where is the rest of him?

THE MATE
Lights on it. Left. More left. Hold, hold it!

PURSER
Nobody is missing. I have counted. I have counted twice.

LISS
It's mine. The coat. I hung it on the night and it let go.

OLD HANNE
[LX 18]Here, here. Come away from the edge, both of you.

- 12 -

Scene 10 — Landfall

LISS
[LX 19]Is it day, or only less night?

THE MATE
It is six. One of them burnt out. It comes to the same grey.

COMPANY
Six came back with the rain, with the rain,
six and a girl and a trunk.

THE MATE
[LX 20]Lights! Harbour lights! All of you, look alive!

PURSER
I should like it noted that I was never afraid. Write it small.

THE MATE
Bow line! Spring! [LX 21]Make fast!

(A rope goes over, and is caught by nobody we can see.)

LISS
I thought it would be further.

OLD HANNE
It is. You have only crossed it once.

([LX 22]Curtain. Interval.)

- 13 -

ACT TWO

Scene 1 — The other quay

([LX 23]House to half. The same lamps from the other side.)

([LX 24]House out. Morning that has not made up its mind.)

OLD HANNE
[LX 25]Every quay looks back.

COMPANY
Every quay looks back, looks back,
to see who isn't waving.

LISS
I have a letter for Anders.

DOCKER
Which?

LISS
Are there several?

DOCKER
[LX 26]There were. The sea is not particular.

- 14 -

Scene 2 — The white door

(A door, standing by itself, painted on one side.)

LISS
[LX 27]Knock. If it is anybody's it will open.

(It opens. [LX 28]Inside there is a lamp, and nobody tending it.)

LISS
She trims the wick on Saturdays.
What day is it?

THE MATE
[LX 29]Saturday, until we say otherwise.

LISS
Then somebody has been here since the rain,
somebody swept, somebody set a chair;
the kettle's warm as if it were my own,
and I am late, and I was always there.

- 15 -

Scene 3 — What the lighthouse said

(The beam again, but slow. It has all day.)

VOICE
[LX 30]Turn, says the lamp. Turn, and I will see you.

COMPANY
[LX 31]Turn and turn and turn about,
the light goes round, the light goes out,
and what it saw it cannot say,
it only saw it yesterday.

VOICE
[LX 32]Stay, says the lamp. And nobody ever did.

LISS
I could. I have a trunk. I have half a name.

VOICE
[LX 33]Then leave the half you have.

- 16 -

Scene 4 — The ferry goes back

THE MATE
[LX 34]Last crossing! Who is for the night side?

STOKERS
[LX 35]Down and up and down and over,
cold iron, hot iron, over the sea.

PURSER
Return tickets are the same price. One pays for having come.

THE STOKER
She's hungry. She can smell the dark. [LX 36]Shovel!

(Fire, and the sound of it.)

COMPANY
[LX 37]Feed her the fence and feed her the gate,
feed her the minutes, feed her the wait,
feed her the coat with the arms that swam,
she wants to know who I am, who I am!

- 17 -

Scene 5 — Storm

OLD HANNE
[LX 39]Wind. I can hear it counting.

(It comes all at once, from the side where nobody was looking.)

THE MATE
[LX 40]Hold on! To anything! To each other!

COMPANY
Over and under and over and under,
one for the lightning and two for the thunder.

THE STOKER
[LX 42]She's lost her fire! She's lost her fire!

(Dark. Only the water has a colour.)

PURSER
I cannot see the page.

OLD HANNE
[LX 43]Then for once you will have to remember.

- 18 -

Scene 6 — In the dark

PURSER
[LX 44]Liss. Large L. I had it all the time. I only wanted to be asked.

LISS
Say it again.

PURSER
[LX 45]Liss Anders' daughter. Crossing, both ways. One trunk. One coat, lost.

LISS
I have, I have a daughter. That was me.

(She finds the lamp in her trunk. She has carried it the whole way.)

LISS
Somebody give me a match.

THE STOKER
[LX 46]Match. It is the part that gets hot.

- 19 -

Scene 7 — The seventh lamp

(One flame. Then what a flame does.)

LISS
[LX 47]Seven lamps went over the water,
one of them never came in;
it sat in a trunk with my name on the handle
and waited for me to begin.

COMPANY
[LX 48]Count them now, count them after,
somebody counts, it is you;
there's a lamp for every window,
and a window for you to come to.

THE MATE
[LX 49]Steam! We have steam!

- 20 -

Scene 8 — Home

COMPANY
[LX 51]All aboard, all aboard, all ashore, all ashore,
it's the same old plank and the same old door.

OLD HANNE
[LX 52]Seven. I make it seven.

THE MATE
So do I. Write it down.

PURSER
I have. Large.

LISS
[LX 53]Is there room for one more?

THE MATE
There's a lamp.

(She hangs it up. [LX 54]Out, except for that.)

([LX 56]Bows. Everybody, then the band.)

([LX 57]Again, if they will have it.)

([LX 58]House. Good night, mind the step.)
`;

/** A Sunday at Tidewater: title, leader, length. */
export const SUNDAY_ORDER = `# Gathering
Bell and quiet | Nell Strand | 2:00
Welcome | Yrsa Oddny | 3:30
Hymn: The water wide | Choir | 4:00

# Word
Reading | Iden Vale | 5:00
Thoughts | Yrsa Oddny | 14:00
Silence | | 2:00

# Sending
Hymn: Lamps | All | 4:30
Notices | Nell Strand | 3:00
Blessing | Yrsa Oddny | 1:30
`;
