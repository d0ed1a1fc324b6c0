"""What a picture that holds every colour went through on its way: damage that follows the place, told from a
look, which follows colour."""
