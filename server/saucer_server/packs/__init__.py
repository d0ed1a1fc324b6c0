"""Packs: looks that come in as files, folders and ZIPs, judged before anything of them is kept."""
