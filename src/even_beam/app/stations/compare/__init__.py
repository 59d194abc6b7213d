"""Compare: which is better, by how much, and is it a fair comparison?"""
