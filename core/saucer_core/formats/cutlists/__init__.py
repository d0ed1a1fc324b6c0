"""Cut lists: which frames of which clips stand where in a cut, as OpenTimelineIO files and CMX 3600 lists."""
