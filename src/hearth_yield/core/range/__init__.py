"""Range: is it paying more than it usually does for the price?"""
