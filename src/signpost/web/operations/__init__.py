"""The operations that a request can ask for, with their parameters."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from signpost.web.operations.contents import Adopt, Contents, Entries, Entry, MoveContents, NoContents
from signpost.web.operations.files import (
    Alike,
    ChangeLinks,
    DeleteFile,
    FollowMoves,
    Heads,
    MenuSection,
    MoveFiles,
    Navigation,
    OwnAddresses,
    Recipe,
    Spread,
)
from signpost.web.operations.headings import (
    CopyPage,
    Drop,
    InsertHeading,
    Levels,
    Move,
    NewPage,
    NoSeparators,
    Plain,
    Promote,
    Repair,
    Sample,
    SectionEdit,
    Separators,
    Shift,
    Skeleton,
    Title,
    Unwrap,
    Words,
    Wrap,
)
from signpost.web.operations.identifiers import Anchors, Apart, Identify, MarkPlace, Relink, Rename, SetIdentifiers
from signpost.web.operations.jumps import BackToTop, Jump, LinkTo, LinkWords, NoJump, Pair
from signpost.web.operations.parts import JoinParts, Parts, RefreshParts, ReorderParts, Style
from signpost.web.operations.source import FixFindings, Tidy, Type, WriteSiteFile

Operation = Annotated[
    Promote
    | Levels
    | Shift
    | Repair
    | Words
    | InsertHeading
    | Wrap
    | Unwrap
    | Separators
    | NoSeparators
    | Plain
    | Move
    | Drop
    | SectionEdit
    | Skeleton
    | NewPage
    | CopyPage
    | MoveFiles
    | FollowMoves
    | DeleteFile
    | ChangeLinks
    | Alike
    | Spread
    | Navigation
    | MenuSection
    | Heads
    | Recipe
    | Title
    | Sample
    | Identify
    | SetIdentifiers
    | Rename
    | MarkPlace
    | Anchors
    | Apart
    | Relink
    | Contents
    | Adopt
    | MoveContents
    | Entry
    | Entries
    | Jump
    | Pair
    | OwnAddresses
    | LinkTo
    | NoJump
    | LinkWords
    | Style
    | NoContents
    | BackToTop
    | Parts
    | RefreshParts
    | ReorderParts
    | JoinParts
    | FixFindings
    | WriteSiteFile
    | Tidy
    | Type,
    Field(discriminator="operation"),
]
