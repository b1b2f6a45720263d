"""Markup whose tags are mixed at random."""

from hypothesis import strategies as st

SOUP = st.lists(
    st.sampled_from(
        """<a href=x>|</a>|<b>|</B>|<i>|</i>|<p>|</p>|<div>|</div>|<DIV class=">">|<ul>|<li>|</li>|</ul>|<table>|<tr>|<td>|</td>
        </table>|<form>|</form>|<br>|<br/>|<h2>|</h3>|</h2 >|<svg>|<svg/>|</svg>|<code/>|</code>|<option>|<select>|</select>
        words|a < b|&lt;|<!-- </b> -->|<script>"</p>"</script>|<title></title>|<body>|</body>|</html>|<button>|</button>
        <nobr>|<em x='</em>'>|</em>|<template><b></template>|\r\n""".replace("\n        ", "|").split("|")
    ),
    max_size=24,
).map("".join)
