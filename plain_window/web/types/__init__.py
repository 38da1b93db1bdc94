"""What goes over the API, as types, a file a noun. They validate; the description is made from them."""
